using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using static PreciseBeacon.Core.Conventions.Starting.StartingFields;

namespace PreciseBeacon.Core.Conventions.Starting;

/// <summary>Four conventions of our own to begin with, and a handful of placements that fit all of them.</summary>
public static class StartingConventions
{
    public static StartingConvention Plain { get; } =
        new(
            "plain",
            "Plain",
            "For one team with a handful of channels: the standard fields in lower case, and the campaign as it is named.",
            Document([Source, Medium, Campaign, Content, Term, Id, FormatAndSize])
        );

    public static StartingConvention DateFirst { get; } =
        new(
            "date-first",
            "Date first",
            "For teams with many campaigns a year: names begin with the month they start in, so that every list sorts by time.",
            Document([Source, Medium, Composed("2026-10_lantern-nights", Date, Name), Content, Term, Id, FormatAndSize])
        );

    public static StartingConvention ByRegionAndChannel { get; } =
        new(
            "region-and-channel",
            "By region and channel",
            "For several regions that share one report: names contain region, channel and campaign, each of which can be read back.",
            Document([
                Source,
                Medium,
                Composed(
                    "north_newsletter-and-mail_lantern-nights",
                    new NamePart
                    {
                        Kind = NamePartKind.Field,
                        Of = Region,
                        Filler = "all",
                    },
                    new NamePart { Kind = NamePartKind.Channel },
                    Name
                ),
                Content,
                Term,
                Id,
                RegionList,
                FormatAndSize,
            ])
        );

    public static StartingConvention Sealed { get; } =
        new(
            "sealed",
            "Sealed",
            "For public links whose tags nobody else should read: one opaque code replaces all tags.",
            Document([Source, Medium, Campaign, Content, Term, Id, FormatAndSize]) with
            {
                Style = TagStyle.Sealed,
                SealedKey = "k",
            }
        );

    public static IReadOnlyList<StartingConvention> All { get; } = [Plain, DateFirst, ByRegionAndChannel, Sealed];

    /// <summary>Placements with their default values; sources are to be renamed to what they are called here.</summary>
    public static IReadOnlyList<StartingPlacement> Placements { get; } =
    [
        Placement("Newsletter – main button", "Newsletter and mail", "newsletter", "email", "main_button"),
        Placement("Newsletter – link in the text", "Newsletter and mail", "newsletter", "email", "text_link"),
        Placement("Text message", "Text message", "own_list", "sms"),
        Placement("Own posts", "Own social posts", "own_page", "social"),
        Placement("Search ads", "Search ads", "search", "cpc"),
        Placement("Poster", "Print and codes", "poster", "qr"),
    ];

    private static NamePart Date => new() { Kind = NamePartKind.Date, Form = DateForm.Month };

    private static NamePart Name => new() { Kind = NamePartKind.Campaign };

    private static FieldDocument Composed(string example, params NamePart[] parts) =>
        Campaign with
        {
            Kind = FieldKind.Composed,
            Pattern = new PatternDocument { Separator = "_", Parts = parts },
            Hint = "Composed by the convention from your choices.",
            Example = example,
        };

    private static ConventionDocument Document(IReadOnlyList<FieldDocument> fields) =>
        new() { Fields = fields, Channels = [.. StartingChannels.Table.Rows.Select(ChannelDocument.Of)] };

    private static StartingPlacement Placement(string name, string channel, string source, string medium, string? content = null)
    {
        var defaults = new Dictionary<string, string> { [StandardKeys.Source] = source, [StandardKeys.Medium] = medium };
        if (content is not null)
        {
            defaults[StandardKeys.Content] = content;
        }

        return new StartingPlacement(name, channel, defaults);
    }
}
