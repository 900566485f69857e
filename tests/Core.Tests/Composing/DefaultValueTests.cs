using PreciseBeacon.Core.Composing;
using PreciseBeacon.CoreTests.Conventions;
using static PreciseBeacon.CoreTests.Conventions.SampleFiles;

namespace PreciseBeacon.CoreTests.Composing;

public sealed class DefaultValueTests
{
    private static readonly PlacementChoice Board = new(
        "Herb board",
        new Dictionary<string, string> { ["utm_source"] = "the_trellis", ["utm_medium"] = "email" },
        Channel: "Newsletter and mail"
    );

    private static ComposedLink Compose(
        string content,
        string page = "https://marrowmere.example/whats-on/lantern-nights.html",
        PlacementChoice? placement = null
    )
    {
        placement ??= Board with { Defaults = new Dictionary<string, string>(Board.Defaults) { ["utm_content"] = content } };
        var campaign = Campaigns["Lantern Nights"] with { Attributes = new Dictionary<string, string> { ["Audience"] = "families" } };
        return LinkPipeline.Run(
            Garden,
            new LinkRequest(page, new Dictionary<string, string>(), campaign, placement),
            LinkFacts.None(GardenConvention.Today)
        );
    }

    private static string ContentOf(ComposedLink link) => link.Fields.Single(f => f.Key == "utm_content").Value;

    [Theory]
    [InlineData("@{page}", "lantern-nights")]
    [InlineData("box_@{audience}", "box_families")]
    [InlineData("@{Campaign} in @{month}", "lantern_nights_in_2026-10")]
    [InlineData("@{quarter}-@{week}", "2026q4-2026w40")]
    [InlineData("@{placement}", "herb_board")]
    [InlineData("plain", "plain")]
    public void Fill_ins_of_a_default_value_are_filled(string template, string written) =>
        Assert.Equal(written, ContentOf(Compose(template)));

    [Fact]
    public void The_front_page_has_a_name_of_its_own() =>
        Assert.Equal("home", ContentOf(Compose("@{page}", "https://marrowmere.example/")));

    [Fact]
    public void What_nothing_gives_stops_the_link_and_is_named()
    {
        var link = Compose("@{season}");
        Assert.False(link.Ready);
        Assert.Contains("“season”", link.Notices.Single(n => n.Rule == "default-unfilled").Message, StringComparison.Ordinal);
        Assert.Equal("", ContentOf(link));
    }

    [Fact]
    public void A_placement_may_ask_for_a_field_that_the_convention_only_offers()
    {
        var asking = Board with { Asks = ["Content"] };
        var link = Compose("", placement: asking);
        Assert.Contains("“Herb board” asks", link.Notices.Single(n => n.Rule == "missing-required").Message, StringComparison.Ordinal);
        var typed = LinkPipeline.Run(
            Garden,
            new LinkRequest(
                "https://marrowmere.example/",
                new Dictionary<string, string> { ["Content"] = "box" },
                Campaigns["Lantern Nights"],
                asking
            ),
            LinkFacts.None(GardenConvention.Today)
        );
        Assert.DoesNotContain(typed.Notices, n => n.Rule == "missing-required");
    }

    [Theory]
    [InlineData("the_trellis", false)] // the tool writes what we write: no harm
    [InlineData("mailer", true)]
    [InlineData("", true)] // what it writes is not known
    public void A_tool_that_writes_something_else_is_noticed(string writes, bool noticed)
    {
        var link = Compose("", placement: Board with { ToolWrites = new Dictionary<string, string> { ["Source"] = writes } });
        Assert.Equal(noticed, link.Notices.Any(n => n.Rule == "tool-overwrites"));
    }
}
