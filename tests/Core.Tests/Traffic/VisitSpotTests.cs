using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>What a visit did with spots of the site's own pages.</summary>
public sealed class VisitSpotTests
{
    private static readonly DateTimeOffset Noon = new(2026, 6, 1, 12, 0, 0, TimeSpan.Zero);
    private static readonly Guid Site = Guid.NewGuid();

    [Fact]
    public void Conversions_count_for_the_spots_before_them()
    {
        var visit = Assert.Single(
            Visits(
                At(0, PageEventKind.View),
                At(2, PageEventKind.SpotSeen, "banner"),
                At(3, PageEventKind.SpotSeen, "footer"),
                At(5, PageEventKind.SpotClicked, "banner"),
                At(20, PageEventKind.View),
                At(22, PageEventKind.SpotSeen, "banner"),
                At(30, PageEventKind.Conversion, "ticket"),
                At(31, PageEventKind.SpotClicked, "footer"),
                At(40, PageEventKind.Conversion, "ticket"),
                At(50, PageEventKind.SpotClicked, "late")
            )
        );
        Assert.Equal(
            ["banner 2 1 2 2", "footer 1 1 2 1", "late 0 1 0 0"],
            visit.Spots!.Select(s =>
                $"{s.Key} {s.Value.Seen} {s.Value.Clicked} {s.Value.ConversionsAfterSeen} {s.Value.ConversionsAfterClicked}"
            )
        );
        Assert.Equal((2, 0, 2), (visit.PageViews, visit.Events, visit.Conversions.Count));
    }

    /// <summary>What is seen of a page takes no longer than the page; a click is something somebody does.</summary>
    [Fact]
    public void Seeing_a_spot_lengthens_no_visit_and_clicking_one_does()
    {
        Assert.Equal(0, Assert.Single(Visits(At(0, PageEventKind.View), At(9, PageEventKind.SpotSeen, "a"))).Seconds);
        var clicked = Assert.Single(Visits(At(0, PageEventKind.View), At(9, PageEventKind.SpotClicked, "a")));
        Assert.Equal((9, true), (clicked.Seconds, clicked.Bounced));
    }

    [Fact]
    public void A_page_left_open_begins_no_visit()
    {
        var visit = Assert.Single(Visits(At(0, PageEventKind.View), At(1_900, PageEventKind.SpotSeen, "a")));
        Assert.Null(visit.Spots);
        Assert.Empty(Visits(At(0, PageEventKind.SpotSeen, "a"), At(5, PageEventKind.SpotClicked, "a")));
    }

    [Fact]
    public void Names_made_up_without_end_stay_out()
    {
        var visit = Assert.Single(
            Visits([
                At(0, PageEventKind.View),
                .. Enumerable.Range(0, 200).Select(i => At(1, PageEventKind.SpotSeen, $"s{i:000}")),
                At(2, PageEventKind.SpotSeen, "s007"),
            ])
        );
        Assert.Equal((VisitSpot.Most, 2), (visit.Spots!.Count, visit.Spots["s007"].Seen));
    }

    private static IReadOnlyList<Visit> Visits(params IEnumerable<RawPageEvent> events) =>
        VisitSplitter.Sort(events, new VisitRules(new HashSet<string> { "marrowmere.example" }, [], TimeZoneInfo.Utc), item => item);

    private static RawPageEvent At(int seconds, PageEventKind kind, string name = "") =>
        new()
        {
            Id = Guid.CreateVersion7(Noon.AddSeconds(seconds)),
            WorkspaceId = Guid.Empty,
            SiteId = Site,
            At = Noon.AddSeconds(seconds),
            Kind = kind,
            Url = "https://marrowmere.example/visit",
            Visitor = Guid.Empty,
            UserAgent = "Mozilla/5.0 (X11; Linux x86_64) Fernleaf/12.1",
            Name = name,
        };
}
