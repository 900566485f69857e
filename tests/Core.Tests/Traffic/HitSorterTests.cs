using System.Text.Json;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.CoreTests.Outside;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class HitSorterTests
{
    private const string Browser = "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1";
    private static readonly DateTimeOffset Noon = new(2026, 11, 25, 12, 0, 0, TimeSpan.Zero);

    private static RawHit Hit(double seconds, string userAgent = Browser, HitFlags flags = HitFlags.None) =>
        new(Guid.NewGuid(), Guid.Empty, Noon.AddSeconds(seconds), Guid.Empty, Guid.Empty, null, flags, userAgent, "");

    [Fact]
    public void A_second_hit_within_two_seconds_is_a_double_tap()
    {
        var kinds = HitSorter.Sort([Hit(0), Hit(2), Hit(4.1), Hit(60)]).Select(s => s.Kind);
        Assert.Equal([HitKind.Person, HitKind.DoubleTap, HitKind.Person, HitKind.Person], kinds);
    }

    [Fact]
    public void What_is_no_person_never_shadows_a_person()
    {
        var kinds = HitSorter.Sort([Hit(0, flags: HitFlags.Prefetch), Hit(0.5, ""), Hit(1), Hit(1.2, flags: HitFlags.Head), Hit(1.4)]).Select(s => s.Kind);
        Assert.Equal([HitKind.Prefetch, HitKind.Crawler, HitKind.Person, HitKind.Head, HitKind.DoubleTap], kinds);
    }

    /// <summary>The check of the rules: 3 clicks at 0.07 each by one person on one day are 3 clicks, 1 visitor, cost 0.21.</summary>
    [Fact]
    public void Three_clicks_by_one_person_cost_three_times_a_click()
    {
        var clicks = HitSorter.Sort([Hit(0), Hit(60), Hit(120)]).Where(s => s.Kind == HitKind.Person).ToList();
        Assert.Equal(3, clicks.Count);
        Assert.Single(clicks.Select(c => c.Hit.Visitor).Distinct());
        Assert.Equal(0.21m, Figures.CostOfClicks(0.07m, clicks.Count));
    }

    /// <summary>Open data: every example of crawler-user-agents (MIT, npm) is a crawler.</summary>
    [Fact]
    public void Every_crawler_of_the_open_data_set_is_recognised()
    {
        using var data = JsonDocument.Parse(NpmPackage.Read("crawler-user-agents/crawler-user-agents.json"));
        var examples = data.RootElement.EnumerateArray().SelectMany(e => e.GetProperty("instances").EnumerateArray()).Select(i => i.GetString()!).ToList();
        Assert.True(examples.Count > 1_000);
        Assert.All(examples, e => Assert.True(Crawlers.IsCrawler(e), e));
    }

    /// <summary>Open data: the browsers that user-agents (BSD, npm) has seen are people, up to one in a hundred.</summary>
    [Fact]
    public void Browsers_of_the_open_data_set_are_people()
    {
        var browsers = NpmPackage.UserAgents(1_000);
        Assert.True(browsers.Count >= 900);
        int crawlers = browsers.Count(Crawlers.IsCrawler);
        Assert.True(crawlers * 100 <= browsers.Count, $"{crawlers} of {browsers.Count} taken for crawlers");
    }
}
