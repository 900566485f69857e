using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Conventions;

namespace PreciseBeacon.Web.Compose;

/// <summary>The convention a new workspace begins with: the six standard fields, lower case, an underscore for a space.</summary>
public static class StartingConvention
{
    /// <summary>Medium words are the trade's own (common practice); the owner can change all of them.</summary>
    private static readonly (string Written, string Label, string[] Aliases)[] Mediums =
    [
        ("email", "Newsletter and mail", ["e-mail", "mail", "newsletter"]),
        ("sms", "Text message", ["text", "text message"]),
        ("social", "Own social posts", ["social media", "organic social"]),
        ("community", "Communities", ["group", "forum"]),
        ("paid_social", "Social ads", ["social ads", "social paid"]),
        ("cpc", "Search ads", ["ppc", "paid search"]),
        ("banner", "Banners", ["display"]),
        ("affiliate", "Affiliates", ["affiliates"]),
        ("referral", "Partners", ["partner"]),
        ("podcast", "Podcast and radio", ["audio"]),
        ("qr", "Print and codes", ["qrcode", "qr code", "print"]),
    ];

    /// <summary>Version 1, published.</summary>
    public static ConventionVersion Make(DateTimeOffset now) => new()
    {
        Number = 1,
        PublishedAt = now,
        Channels = ConventionRows.Json(StartingChannels.Table.Rows.Select(ChannelDocument.Of)),
        Fields =
        [
            new FieldRow
            {
                Position = 0, Key = StandardKeys.Source, Label = "Source", Presence = Presence.Required, HasWordList = true,
                Hint = "Who sends the visitor: the newsletter, network, site or place.", Example = "the_trellis",
            },
            new FieldRow
            {
                Position = 1, Key = StandardKeys.Medium, Label = "Medium", Presence = Presence.Required, HasWordList = true, ClosedList = true,
                Hint = "The kind of traffic; one of the list, so that channels can be told apart.", Example = "email",
                Words = [.. Mediums.Select((m, i) => new WordRow { Position = i, Written = m.Written, Label = m.Label, Aliases = [.. m.Aliases] })],
            },
            new FieldRow
            {
                Position = 2, Key = StandardKeys.Campaign, Label = "Campaign", Presence = Presence.Required,
                Hint = "Comes with the campaign chosen; year and month first, so that lists sort.", Example = "2026-10_lantern_nights",
            },
            new FieldRow
            {
                Position = 3, Key = StandardKeys.Content, Label = "Content",
                Hint = "What tells two links in the same spot apart, such as the button or the picture.", Example = "header_button",
            },
            new FieldRow
            {
                Position = 4, Key = StandardKeys.Term, Label = "Term",
                Hint = "The keyword, for search ads.", Example = "autumn evenings out",
            },
            new FieldRow
            {
                Position = 5, Key = StandardKeys.Id, Label = "Id", HoldsNumbers = true,
                Hint = "A number of your own for the campaign, if another system needs one.", Example = "4711",
            },
        ],
    };
}
