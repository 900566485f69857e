using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class HitClassifierTests
{
    private const string Browser = "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1";
    private static readonly DateTimeOffset Noon = new(2026, 11, 25, 12, 0, 0, TimeSpan.Zero);

    private static RawHit Hit(double seconds, string userAgent = Browser, HitFlags flags = HitFlags.None) =>
        new(Guid.NewGuid(), Guid.Empty, Noon.AddSeconds(seconds), Guid.Empty, Guid.Empty, null, flags, userAgent, "");

    [Fact]
    public void A_second_hit_within_two_seconds_is_a_double_tap()
    {
        var kinds = HitClassifier.Sort([Hit(0), Hit(2), Hit(4.1), Hit(60)]).Select(s => s.Kind);
        Assert.Equal([HitKind.Person, HitKind.DoubleTap, HitKind.Person, HitKind.Person], kinds);
    }

    [Fact]
    public void What_is_no_person_never_shadows_a_person()
    {
        var kinds = HitClassifier
            .Sort([Hit(0, flags: HitFlags.Prefetch), Hit(0.5, ""), Hit(1), Hit(1.2, flags: HitFlags.Head), Hit(1.4)])
            .Select(s => s.Kind);
        Assert.Equal([HitKind.Prefetch, HitKind.Crawler, HitKind.Person, HitKind.Head, HitKind.DoubleTap], kinds);
    }

    /// <summary>The check of the rules: 3 clicks at 0.07 each by one person on one day are 3 clicks, 1 visitor, cost 0.21.</summary>
    [Fact]
    public void Three_clicks_by_one_person_cost_three_times_a_click()
    {
        var clicks = HitClassifier.Sort([Hit(0), Hit(60), Hit(120)]).Where(s => s.Kind == HitKind.Person).ToList();
        Assert.Equal(3, clicks.Count);
        Assert.Single(clicks.Select(c => c.Hit.Visitor).Distinct());
        Assert.Equal(0.21m, new CostRate(null, CostBasis.Click, 0.07m).Of(clicks.Count));
    }
}
