using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>Which hit and which link are behind a visit (reports, section 1).</summary>
public sealed class VisitLinksTests
{
    private static readonly DateTimeOffset Start = new(2026, 7, 1, 9, 0, 0, TimeSpan.Zero);
    private static readonly RawTags Tags = RawTags.Of([KeyValuePair.Create("utm_source", "a")]);
    private static readonly Guid OfHit = Guid.NewGuid();
    private static readonly Guid ByTags = Guid.NewGuid();

    private static Visit VisitAt(double minutes, Guid? goesOnFrom = null)
    {
        var id = Guid.NewGuid();
        return new Visit
        {
            Id = id,
            WorkspaceId = Guid.Empty,
            SiteId = Guid.Empty,
            Visitor = Guid.Empty,
            Day = new DateOnly(2026, 7, 1),
            StartedAt = Start.AddMinutes(minutes),
            EndedAt = Start.AddMinutes(minutes),
            Tags = Tags,
            ReferrerHost = "",
            LandingPage = "marrowmere.example/visit",
            Device = new VisitDevice(Device.Phone, "", "", "", ""),
            Place = Whereabouts.Unknown,
            Hour = 9,
            HasId = false,
            DayVisitor = Guid.Empty,
            SourceVisit = goesOnFrom ?? id,
        };
    }

    private static List<Visit> Find(IReadOnlyList<Visit> visits, (Visit, HitOfVisit)[] hits, params LinkByTags[] links) =>
        VisitLinks.Find(
            visits,
            hits.ToLookup(h => h.Item1.Id, h => h.Item2),
            links.ToLookup(_ => (Guid.Empty, Tags, "marrowmere.example/visit"))
        );

    private static HitOfVisit HitAt(double minutes, bool printed = false) => new(Guid.NewGuid(), Start.AddMinutes(minutes), OfHit, printed);

    [Fact]
    public void The_hits_link_goes_before_one_with_the_same_tags()
    {
        var visit = VisitAt(1);
        var hit = HitAt(0.5, printed: true);
        var found = Assert.Single(Find([visit], [(visit, hit)], new LinkByTags(ByTags, Start.AddDays(-1))));
        Assert.Equal((hit.HitId, OfHit, true), (found.HitId, found.LinkId, found.Printed));
        found = Assert.Single(Find([visit], [], new LinkByTags(ByTags, Start.AddDays(-1))));
        Assert.Equal(((Guid?)null, (Guid?)ByTags, false), (found.HitId, found.LinkId, found.Printed));
    }

    [Fact]
    public void A_link_made_later_is_not_behind_an_earlier_visit()
    {
        var later = new LinkByTags(Guid.NewGuid(), Start.AddMinutes(2));
        Assert.Null(Find([VisitAt(1)], [], later)[0].LinkId);
        Assert.Equal(ByTags, Find([VisitAt(1)], [], later, new LinkByTags(ByTags, Start))[0].LinkId);
    }

    [Fact]
    public void The_latest_hit_counts_and_each_serves_one_visit()
    {
        Visit first = VisitAt(1),
            second = VisitAt(1.5);
        HitOfVisit early = HitAt(0.2),
            late = HitAt(0.8);
        var found = Find([second, first], [(first, early), (first, late), (second, early), (second, late)]);
        Assert.Equal([early.HitId, late.HitId], found.Select(v => v.HitId!.Value));
    }

    [Fact]
    public void A_visit_that_goes_on_has_the_link_of_the_one_it_goes_on_from()
    {
        var first = VisitAt(1);
        var next = VisitAt(60, goesOnFrom: first.Id);
        var found = Find([first, next], [(first, HitAt(0.5, printed: true))]);
        Assert.Equal([(OfHit, true), (OfHit, true)], found.Select(v => (v.LinkId!.Value, v.Printed)));
        Assert.Null(found[1].HitId);
    }
}
