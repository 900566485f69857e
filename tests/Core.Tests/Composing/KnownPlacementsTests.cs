using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using static PreciseBeacon.CoreTests.Conventions.SampleFiles;

namespace PreciseBeacon.CoreTests.Composing;

public class KnownPlacementsTests
{
    private static readonly LinkFacts Facts = LinkFacts.None(new DateOnly(2026, 10, 2)) with
    {
        Campaigns = CampaignWords.Of(Garden, Campaigns.Values),
        Placements = KnownPlacements.Of(
            Garden,
            [
                new PlacementChoice(
                    "The Trellis",
                    new Dictionary<string, string> { ["Source"] = "the_trellis", ["utm_medium"] = "e-mail" }
                ),
                new PlacementChoice(
                    "The Trellis – header",
                    new Dictionary<string, string>
                    {
                        ["utm_source"] = "the_trellis",
                        ["utm_medium"] = "email",
                        ["utm_content"] = "Header",
                    }
                ),
                new PlacementChoice(
                    "Nattervine page",
                    new Dictionary<string, string> { ["utm_source"] = "nattervine", ["utm_medium"] = "social" }
                ),
                new PlacementChoice(
                    "Nattervine groups",
                    new Dictionary<string, string> { ["utm_source"] = "nattervine", ["utm_medium"] = "social" }
                ),
                new PlacementChoice("Any mail", new Dictionary<string, string> { ["utm_medium"] = "email" }),
                new PlacementChoice(
                    "By region",
                    new Dictionary<string, string>
                    {
                        ["utm_source"] = "gate_poster",
                        ["utm_medium"] = "qr",
                        ["utm_content"] = "@{region}",
                    }
                ),
            ]
        ),
    };

    [Theory]
    [InlineData("utm_source=the_trellis&utm_medium=email", "The Trellis")]
    [InlineData("utm_source=The+Trellis&utm_medium=e-mail&utm_content=footer", "The Trellis")]
    [InlineData("utm_source=the_trellis&utm_medium=email&utm_content=header", "The Trellis – header")]
    [InlineData("utm_source=nattervine&utm_medium=social", null)]
    [InlineData("utm_source=vale&utm_medium=email", null)]
    [InlineData("utm_source=gate_poster&utm_medium=qr&utm_content=north", null)]
    public void A_pasted_link_belongs_to_the_one_placement_that_says_the_same(string query, string? placement) =>
        Assert.Equal(placement, LinkInspector.Inspect(Garden, $"https://marrowmere.example/visit?{query}", Facts).Placement?.Name);

    [Fact]
    public void What_campaign_and_placement_give_need_not_be_typed_again()
    {
        var made = LinkPipeline.Run(
            Garden,
            new LinkRequest(
                "https://marrowmere.example/visit?day=1",
                new Dictionary<string, string> { ["Term"] = "moths" },
                Campaigns["Lantern Nights"],
                new PlacementChoice(
                    "",
                    new Dictionary<string, string>
                    {
                        ["utm_source"] = "the_trellis",
                        ["utm_medium"] = "email",
                        ["utm_content"] = "header",
                    }
                )
            ),
            Facts
        );
        var read = LinkInspector.Inspect(Garden, made.Tagged!.Url, Facts);
        Assert.Equal(
            ("https://marrowmere.example/visit?day=1", "Lantern Nights", "The Trellis – header"),
            (read.Destination, read.Campaign?.Name, read.Placement?.Name)
        );
        Assert.Equal([KeyValuePair.Create("utm_term", "moths")], read.Typed);
        var again = LinkPipeline.Run(Garden, new LinkRequest(read.Destination!, read.Typed, read.Campaign, read.Placement), Facts);
        Assert.Equal(made.Tagged.Url, again.Tagged!.Url);
    }
}
