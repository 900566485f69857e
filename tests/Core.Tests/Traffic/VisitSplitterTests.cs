using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class VisitSplitterTests
{
    private static readonly DateTimeOffset Start = new(2026, 7, 1, 9, 0, 0, TimeSpan.Zero);
    private static readonly VisitRules Rules = new(
        new HashSet<string> { "marrowmere.example", "shop.marrowmere.example" },
        [.. StandardKeys.All.Select(k => new Tag(k, "", k == StandardKeys.Source ? ["src"] : []))],
        TimeZoneInfo.FindSystemTimeZoneById("Europe/Dublin")
    );

    private static readonly Tag Source = Rules.Tags[0];

    private static RawPageEvent View(double minutes, string url, string referrer = "", Guid visitor = default) =>
        new()
        {
            Id = Guid.CreateVersion7(Start.AddMinutes(minutes)),
            WorkspaceId = Guid.Empty,
            SiteId = Guid.Empty,
            At = Start.AddMinutes(minutes),
            Kind = PageEventKind.View,
            Url = "https://marrowmere.example" + url,
            Referrer = referrer,
            Visitor = visitor,
            UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
        };

    private static RawPageEvent Order(double minutes, string order) =>
        View(minutes, "/thanks") with
        {
            Kind = PageEventKind.Conversion,
            Name = "ticket",
            OrderId = order,
            Value = 18.5m,
            Currency = "EUR",
        };

    private static IReadOnlyList<Visit> Sort(params RawPageEvent[] events) => VisitSplitter.Sort(events, Rules, e => e);

    [Fact]
    public void Thirty_minutes_go_on_and_more_begin_a_new_visit()
    {
        Assert.Single(Sort(View(0, "/a"), View(30, "/b")));
        Assert.Equal(2, Sort(View(0, "/a"), View(30.01, "/b")).Count);
    }

    /// <summary>
    /// A trial begins and ends a visit of its own: only the view its opening leads to begins one, reloads and further pages go along with
    /// it, and neither what was before nor what comes after belongs to it.
    /// </summary>
    [Fact]
    public void A_trial_is_a_visit_of_its_own()
    {
        var visitor = Guid.NewGuid();
        TrialHit Opened(double minutes, string page) =>
            new(Guid.NewGuid(), Guid.NewGuid(), Guid.Empty, Start.AddMinutes(minutes), visitor, [PageKey.Of("marrowmere.example" + page)]);
        IReadOnlyList<Visit> With(TrialHit hit, params RawPageEvent[] events) =>
            VisitSplitter.Sort(events, Rules, e => e, new TrialHits([hit]));

        const string tagged = "/a?utm_source=post";
        var hit = Opened(5, "/a");
        var visits = With(
            hit,
            View(0, tagged, visitor: visitor),
            View(4, "/b", "https://marrowmere.example/a", visitor),
            View(5.1, tagged, visitor: visitor),
            View(5.2, tagged, visitor: visitor),
            View(6, "/c", "https://marrowmere.example/a", visitor),
            View(8, "/d?utm_source=partner", visitor: visitor)
        );
        Assert.Equal([false, true, false], visits.Select(v => v.Trial is not null));
        Assert.Equal([2, 3, 1], visits.Select(v => v.PageViews));
        Assert.Equal(hit, visits[1].Trial);

        // Another page, another visitor, before it or too long after it: none of these is the trial's.
        Assert.Null(With(hit, View(5.1, "/other", visitor: visitor))[0].Trial);
        Assert.Null(With(hit, View(5.1, tagged, visitor: Guid.NewGuid()))[0].Trial);
        Assert.Null(With(hit, View(4.9, tagged, visitor: visitor))[0].Trial);
        Assert.Null(With(hit, View(7.1, tagged, visitor: visitor))[0].Trial);
        Assert.NotNull(With(hit, View(7, tagged, visitor: visitor))[0].Trial);

        // A visitor with an id is found by the day's hash; just after midnight by that of the day before.
        Assert.NotNull(With(hit, View(5.1, tagged, visitor: Guid.NewGuid()) with { DayVisitor = visitor, HasId = true })[0].Trial);
        Assert.NotNull(With(hit, View(5.1, tagged, visitor: Guid.NewGuid()) with { EarlierVisitor = visitor })[0].Trial);
    }

    /// <summary>Whoever goes on inside the site later has no source of a trial.</summary>
    [Fact]
    public void A_trial_lends_its_source_to_no_other_visit()
    {
        var visitor = Guid.NewGuid();
        var hit = new TrialHit(Guid.NewGuid(), Guid.NewGuid(), Guid.Empty, Start, visitor, [PageKey.Of("marrowmere.example/a")]);
        var visits = VisitSplitter.Sort(
            [View(0.1, "/a?utm_source=post", visitor: visitor), View(60, "/b", "https://marrowmere.example/a", visitor)],
            Rules,
            e => e,
            new TrialHits([hit])
        );
        Assert.Equal([true, false], visits.Select(v => v.Tags.Any));
        Assert.Null(visits[1].Trial);
        Assert.Equal(visits[1].Id, visits[1].SourceVisit);
    }

    /// <summary>Names are told apart up to a limit, so that a page that makes names up fills nothing; all events are counted.</summary>
    [Fact]
    public void Events_are_counted_by_name()
    {
        RawPageEvent Event(double minutes, string name) => View(minutes, "/a") with { Kind = PageEventKind.Event, Name = name };

        var visits = Sort(View(0, "/a"), Event(1, "map opened"), Event(2, "video"), Event(3, "map opened"), Event(60, "video"));
        Assert.Equal(
            ["map opened 2, video 1", "video 1"],
            visits.Select(v => string.Join(", ", v.EventNames!.Select(e => $"{e.Key} {e.Value}")))
        );
        var many = Sort([
            View(0, "/a"),
            .. Enumerable.Range(0, 80).SelectMany(i => new[] { Event(1, $"made up {i}"), Event(1, "made up 3") }),
        ]);
        Assert.Equal((160, Visit.MostEventNames, 81), (many[0].Events, many[0].EventNames!.Count, many[0].EventNames!["made up 3"]));
        Assert.Null(Sort(View(0, "/a"))[0].EventNames);
    }

    /// <summary>Loading the page again adds nothing, another visit does, and every time counts only where the owner says so.</summary>
    [Theory]
    [InlineData(false, 1)]
    [InlineData(true, 2)]
    public void A_page_reached_converts_once_in_a_visit(bool each, int times)
    {
        var rules = Rules with
        {
            Conversions = new ConversionDefinitions([
                new ConversionDefinition(Guid.NewGuid(), "signup", ConversionTest.Page, "/welcome")
                {
                    Value = 5m,
                    Currency = "EUR",
                    CountsEach = each,
                },
                new ConversionDefinition(Guid.NewGuid(), "film", ConversionTest.Event, "film-played"),
            ]),
        };
        var film = View(3, "/welcome") with { Kind = PageEventKind.Event, Name = "film-played" };
        var visits = VisitSplitter.Sort([View(0, "/a"), View(1, "/welcome"), View(2, "/welcome"), film, View(60, "/welcome")], rules, e =>
            e
        );
        Assert.Equal([times + 1, 1], visits.Select(v => v.Conversions.Count));
        Assert.Equal([.. Enumerable.Repeat("signup", times), "film"], visits[0].Conversions.Select(c => c.Name));
        Assert.Equal(
            (5m, "EUR", (string?)null),
            (visits[1].Conversions[0].Value, visits[1].Conversions[0].Currency, visits[1].Conversions[0].OrderId)
        );
        Assert.False(visits[1].Bounced);
        Guid[] ids = [.. visits.SelectMany(v => v.Conversions).Select(c => c.Id)];
        Assert.Equal(ids.Length, ids.Distinct().Count());
    }

    /// <summary>Reports of a page may overtake each other on their way.</summary>
    [Fact]
    public void An_event_that_comes_before_its_pages_view_begins_the_same_visit()
    {
        var view = View(0.01, "/a?utm_source=x", "https://vale.example/links");
        var visit = Assert.Single(
            Sort(view with { Id = Guid.CreateVersion7(Start), At = Start, Kind = PageEventKind.Event, Name = "opened" }, view)
        );
        Assert.Equal(("x", "vale.example", 1, 1), (visit.Tags.ValueOf(Source), visit.ReferrerHost, visit.PageViews, visit.Events));
    }

    [Theory]
    [InlineData("/b?utm_source=y", "", 2)]
    [InlineData("/b?utm_source=x", "", 1)]
    [InlineData("/b", "https://vale.example/links", 2)]
    [InlineData("/b", "https://marrowmere.example/a", 1)]
    [InlineData("/b", "https://shop.marrowmere.example/a", 1)]
    [InlineData("/b?utm_source=y", "https://marrowmere.example/a", 1)]
    [InlineData("/b", "", 1)]
    public void Other_tags_or_another_outside_referrer_begin_a_new_visit(string url, string referrer, int visits) =>
        Assert.Equal(visits, Sort(View(0, "/a?utm_source=x"), View(1, url, referrer)).Count);

    [Fact]
    public void A_tag_on_a_link_inside_the_own_site_is_kept_as_a_finding_and_wipes_nothing_out()
    {
        var visit = Assert.Single(Sort(View(0, "/a?utm_source=x"), View(1, "/b?utm_source=y", "https://marrowmere.example/a")));
        Assert.Equal(("x", true), (visit.Tags.ValueOf(Source), visit.TaggedInside));
    }

    /// <summary>Going on to another site begins a visit there with the same source; coming back goes on with the first (reports, section 1).</summary>
    [Fact]
    public void A_visit_belongs_to_one_site()
    {
        var shop = Guid.NewGuid();
        RawPageEvent InShop(double minutes, string referrer) =>
            View(minutes, "/x", referrer) with
            {
                SiteId = shop,
                Url = "https://shop.marrowmere.example/x",
            };
        var visits = Sort(
            View(0, "/a?utm_source=x"),
            InShop(1, "https://marrowmere.example/a"),
            View(2, "/b", "https://shop.marrowmere.example/x"),
            InShop(3, "https://marrowmere.example/b")
        );
        Assert.Equal([Guid.Empty, shop], visits.Select(v => v.SiteId));
        Assert.Equal(["x", "x"], visits.Select(v => v.Tags.ValueOf(Source)));
        Assert.Equal([visits[0].Id, visits[0].Id], visits.Select(v => v.SourceVisit));
        Assert.Equal([2, 2], visits.Select(v => v.PageViews));
        Assert.Equal("marrowmere.example/b", visits[0].LastPage);
    }

    [Fact]
    public void After_a_pause_inside_the_own_site_the_days_last_source_still_holds()
    {
        var visits = Sort(View(0, "/a?utm_source=x&utm_medium=email"), View(45, "/b?utm_source=inside", "https://marrowmere.example/a"));
        Assert.Equal(["x", "x"], visits.Select(v => v.Tags.ValueOf(Source)));
        Assert.True(visits[1].TaggedInside);
    }

    /// <summary>The last visit still going on that day lends its source, also where it began the day before.</summary>
    [Fact]
    public void A_visit_over_midnight_is_the_new_days_last_source()
    {
        double lateEvening = (13 * 60) + 50;
        var visits = Sort(
            View(lateEvening, "/a?utm_source=x"),
            View(lateEvening + 20, "/b"),
            View(lateEvening + 60, "/c", "https://marrowmere.example/b")
        );
        Assert.Equal(["x", "x"], visits.Select(v => v.Tags.ValueOf(Source)));
        Assert.Equal([new DateOnly(2026, 7, 1), new DateOnly(2026, 7, 2)], visits.Select(v => v.Day));
    }

    /// <summary>Plain pages of a short domain are the workspace's own; the tags behind them still count.</summary>
    [Theory]
    [InlineData("/b", "https://mmr.example/lanterns/where", 1, "x")]
    [InlineData("/b?utm_source=y", "https://mmr.example/lanterns/where", 2, "y")]
    [InlineData("/b", "https://other.example/", 2, null)]
    public void A_referrer_on_the_own_short_domain_is_no_outside_one(string url, string referrer, int visits, string? source)
    {
        var sorted = VisitSplitter.Sort(
            [View(0, "/a?utm_source=x"), View(1, url, referrer)],
            Rules with
            {
                ShortHosts = new HashSet<string> { "mmr.example" },
            },
            e => e
        );
        Assert.Equal((visits, source), (sorted.Count, sorted[^1].Tags.ValueOf(Source)));
        Assert.Equal(referrer.Contains("mmr", StringComparison.Ordinal) ? "" : "other.example", sorted[^1].ReferrerHost);
    }

    [Fact]
    public void A_new_direct_arrival_after_a_pause_is_direct() =>
        Assert.Null(Sort(View(0, "/a?utm_source=x"), View(45, "/b"))[1].Tags.ValueOf(Source));

    [Fact]
    public void Midnight_does_not_split_and_the_day_is_the_workspaces()
    {
        // 23:50 in Dublin's summer is 22:50 UTC.
        double lateEvening = (13 * 60) + 50;
        var visit = Assert.Single(Sort(View(lateEvening, "/a"), View(lateEvening + 20, "/b")));
        Assert.Equal((new DateOnly(2026, 7, 1), 2), (visit.Day, visit.PageViews));
        Assert.Equal(new DateOnly(2026, 7, 2), Sort(View(lateEvening + 15, "/a"))[0].Day);
    }

    [Fact]
    public void A_bounce_is_one_page_view_without_a_conversion()
    {
        Assert.True(Sort(View(0, "/a"))[0].Bounced);
        Assert.False(Sort(View(0, "/a"), View(1, "/b"))[0].Bounced);
        Assert.False(Sort(View(0, "/a"), Order(1, "1"))[0].Bounced);
        Assert.True(Sort(View(0, "/a"), View(1, "/a") with { Kind = PageEventKind.Event, Name = "film" })[0].Bounced);
    }

    [Fact]
    public void Only_the_order_that_counts_is_a_conversion()
    {
        var orders = new[] { Order(1, "1"), Order(2, "1") };
        var visit = Assert.Single(VisitSplitter.Sort([View(0, "/a"), .. orders], Rules, e => e.Id == orders[0].Id ? e : null));
        Assert.Equal([orders[0].Id], visit.Conversions.Select(c => c.Id));
    }

    /// <summary>Nobody is on the page when a server reports: the visit lasts no longer, and the server's lack of a browser makes it no crawler.</summary>
    [Fact]
    public void A_server_s_conversion_joins_its_visit_and_lengthens_nothing()
    {
        var server = Order(2, "1") with { Verified = true, UserAgent = "", Url = "" };
        var visit = Assert.Single(Sort(View(0, "/a?utm_source=x"), View(1, "/b"), server));
        Assert.Equal((60, 2, "x", server.Id), (visit.Seconds, visit.PageViews, visit.Tags.ValueOf(Source), visit.Conversions[0].Id));

        // Where nothing of the visitor was measured it stands alone, with the tags its click led to; another that doesn't count makes none.
        var alone = Assert.Single(Sort(server with { Url = "https://partner.example/buy?utm_source=y" }));
        Assert.Equal((0, "partner.example/buy", "y"), (alone.PageViews, alone.LandingPage, alone.Tags.ValueOf(Source)));
        Assert.False(alone.Bounced);
        Assert.Empty(VisitSplitter.Sort([server], Rules, _ => null));
    }

    [Fact]
    public void Tags_are_read_from_query_fragment_and_other_keys()
    {
        Assert.Equal("x", Sort(View(0, "/a#utm_source=x"))[0].Tags.ValueOf(Source));
        Assert.Equal("x y", Sort(View(0, "/a?src=x+y"))[0].Tags.ValueOf(Source));
        Assert.Equal("a\uFFFDb", Sort(View(0, "/a?utm_source=a%00b"))[0].Tags.ValueOf(Source));
        Assert.Equal(
            ("marrowmere.example/a", "vale.example"),
            Sort(View(0, "/a?q=1", "https://Vale.example/x")).Select(v => (v.LandingPage, v.ReferrerHost)).Single()
        );
    }

    [Fact]
    public void Crawlers_make_no_visits() => Assert.Empty(Sort(View(0, "/a") with { UserAgent = "" }));

    [Fact]
    public void A_visit_over_midnight_belongs_to_the_hash_it_began_with()
    {
        Guid before = Guid.NewGuid(),
            after = Guid.NewGuid();
        double lateEvening = (13 * 60) + 50;
        var visits = Sort(
            View(lateEvening, "/a", visitor: before),
            View(lateEvening + 20, "/b", visitor: after),
            View(lateEvening + 200, "/c", visitor: after)
        );
        Assert.Equal([before, after], visits.Select(v => v.Visitor));
    }
}
