using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Conventions;

/// <summary>The convention and facts the tests build with.</summary>
public static class GardenConvention
{
    public static readonly DateOnly Today = new(2026, 11, 25);

    public static readonly Convention Garden = new(
        1,
        [
            new Field
            {
                Key = StandardKeys.Source,
                Label = "Source",
                Presence = Presence.Required,
                Words = new WordList(
                    [
                        new Word("the_trellis", "The Trellis", ["trellis"]),
                        new Word("nattervine"),
                        new Word("fernpost", "Fernpost", [], true, "nattervine"),
                    ],
                    new ValueRules()
                ),
            },
            new Field
            {
                Key = StandardKeys.Medium,
                Label = "Medium",
                Presence = Presence.Required,
                ClosedList = true,
                Words = new WordList([new Word("email", "Mail", ["e-mail"]), new Word("social")], new ValueRules()),
            },
            new Field
            {
                Key = StandardKeys.Campaign,
                Label = "Campaign",
                Presence = Presence.Required,
            },
            new Field { Key = StandardKeys.Content, Label = "Content" },
            new Field { Key = StandardKeys.Term, Label = "Term" },
            new Field
            {
                Key = StandardKeys.Id,
                Label = "Id",
                HoldsNumbers = true,
            },
        ],
        new LinkSettings(Live: PlaceholderShapes.Braces | PlaceholderShapes.Percents)
    );

    public static readonly LinkFacts Facts = new(
        new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query, ["app.marrowmere.example"] = TagStyle.Fragment },
        new HashSet<string> { "vale.example" },
        new HashSet<string> { "marrowmere.example" },
        Today
    );

    public static readonly PlacementChoice Trellis = new(
        "The Trellis",
        new Dictionary<string, string>
        {
            [StandardKeys.Source] = "the_trellis",
            [StandardKeys.Medium] = "email",
            [StandardKeys.Content] = "header",
        }
    );

    public static readonly CampaignChoice Lanterns = new(
        "Lantern Nights",
        "2026-10_lantern_nights",
        new DateOnly(2026, 10, 1),
        new DateOnly(2026, 12, 20)
    );

    public static ComposedLink Compose(string destination, params (string Key, string Value)[] fields) =>
        LinkPipeline.Run(Garden, new LinkRequest(destination, fields.ToDictionary(f => f.Key, f => f.Value), Lanterns, Trellis), Facts);
}
