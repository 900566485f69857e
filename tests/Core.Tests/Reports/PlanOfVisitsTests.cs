using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>Which campaign, which placement: one rule (reports, section 1).</summary>
public sealed class PlanOfVisitsTests
{
    private static readonly CampaignOfVisit Lanterns = new(
        Guid.NewGuid(),
        "Lantern Nights",
        "lantern_nights",
        new Dictionary<string, string> { ["region"] = "north" }
    );
    private static readonly CampaignOfVisit Bulbs = new(Guid.NewGuid(), "Bulb Sale", "bulb_sale", new Dictionary<string, string>());
    private static readonly PlacementOfVisit Poster = PlacementOf("Gate poster", ("utm_source", "gate_poster"), ("utm_medium", "qr"));
    private static readonly PlacementOfVisit Board = PlacementOf("Board", ("utm_source", "board"), ("utm_medium", "qr"));
    private static readonly PlacementOfVisit Twin = PlacementOf("Board at the lake", ("utm_source", "board"), ("utm_medium", "qr"));
    private static readonly LinkOfVisit Link = new(Guid.NewGuid(), "Header button", Bulbs.Id, Board.Id);
    private static readonly LinkOfVisit Bare = new(Guid.NewGuid(), "No plan", null, null);
    private static readonly PlanOfVisits Plan = new(
        [Lanterns, Bulbs],
        [Poster, Board, Twin],
        new Dictionary<Guid, LinkOfVisit> { [Link.Id] = Link, [Bare.Id] = Bare }
    );

    private static PlacementOfVisit PlacementOf(string name, params (string Key, string Value)[] values) =>
        new(Guid.NewGuid(), name, "Vale Press", "Posters", values.ToDictionary(v => v.Key, v => v.Value));

    private static ReadSource Read(Guid? link, params (string Key, string Value)[] tags) =>
        new(
            new TrafficSource(1, RawTags.Of(tags.Select(t => KeyValuePair.Create(t.Key, t.Value))), "", LinkId: link),
            GardenConvention.Garden,
            Plan
        );

    private static string? Key(ReadSource source, RowKind kind, string name = "") => source.KeyOf(new RowField(kind, name));

    [Fact]
    public void The_links_campaign_and_placement_go_before_what_the_tags_say()
    {
        var read = Read(Link.Id, ("utm_campaign", "lantern_nights"), ("utm_source", "gate_poster"), ("utm_medium", "qr"));
        Assert.Equal("bulb_sale", Key(read, RowKind.Campaign));
        Assert.Equal("Board", Key(read, RowKind.Placement));
        Assert.Equal(Link.Id.ToString(), Key(read, RowKind.Link));
    }

    [Fact]
    public void Without_a_links_campaign_the_tag_says_it_and_stands_as_it_came_where_nobody_knows_it()
    {
        Assert.Equal("lantern_nights", Key(Read(Bare.Id, ("utm_campaign", "lantern_nights")), RowKind.Campaign));
        Assert.Equal("north", Key(Read(null, ("utm_campaign", "lantern_nights")), RowKind.Attribute, "Region"));
        Assert.Equal("strange", Key(Read(null, ("utm_campaign", "strange")), RowKind.Campaign));
        Assert.Null(Key(Read(null), RowKind.Campaign));
    }

    [Fact]
    public void The_only_placement_whose_values_all_fit_is_the_visits_and_of_several_none()
    {
        var poster = Read(null, ("utm_source", "gate_poster"), ("utm_medium", "qr"), ("utm_content", "b"));
        Assert.Equal(
            ("Gate poster", "Posters", "Vale Press"),
            (Key(poster, RowKind.Placement), Key(poster, RowKind.Set), Key(poster, RowKind.Publisher))
        );
        Assert.Null(Key(Read(null, ("utm_source", "gate_poster")), RowKind.Placement));
        Assert.Null(Key(Read(null, ("utm_source", "board"), ("utm_medium", "qr")), RowKind.Placement));
        Assert.Null(Key(Read(Bare.Id, ("utm_source", "gate_poster"), ("utm_medium", "qr")), RowKind.Placement));
    }

    [Fact]
    public void Source_and_medium_stand_together()
    {
        Assert.Equal("a / qr", Key(Read(null, ("utm_source", "a"), ("utm_medium", "qr")), RowKind.SourceMedium));
        Assert.Equal("direct / –", Key(Read(null), RowKind.SourceMedium));
        Assert.Null(Key(Read(null, ("utm_term", "x")), RowKind.SourceMedium));
    }
}
