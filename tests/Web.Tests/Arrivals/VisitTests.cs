using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Single visits: listed page by page, narrowed, and one opened.</summary>
public sealed class VisitTests(ArrivalRowsTests.Visited visited) : IClassFixture<ArrivalRowsTests.Visited>
{
    private BeaconHost Host => visited.Host;

    [Theory]
    [InlineData("", "true")]
    [InlineData("&where=device:is:phone", "d.kind = 'phone'")]
    [InlineData("&where=content:is:", "not s.tags ? 'utm_content'")]
    [InlineData(
        "&where=landingPage:contains:lantern&where=country:in:IE&where=country:in:FR",
        "f.address like '%lantern%' and p.country in ('IE', 'FR')"
    )]
    public async Task Every_visit_is_listed_once_the_newest_first(string where, string condition)
    {
        var listed = new List<(Guid Id, DateTimeOffset At)>();
        for (string? next = ""; next is not null; )
        {
            var page = await Host.GetJsonAsync(
                $"/api/v1/visits?from=2020-01-01&size=300{where}{(next.Length == 0 ? "" : "&after=" + next)}"
            );
            listed.AddRange(
                page["visits"]!.AsArray().Select(v => (v!["id"]!.GetValue<Guid>(), v["startedAt"]!.GetValue<DateTimeOffset>()))
            );
            next = page["next"]?.GetValue<string>();
        }

        Assert.Equal(listed.OrderByDescending(v => v.At).Select(v => v.At), listed.Select(v => v.At));
        string found = await Host.ScalarAsync<string>(
            $"""
            select string_agg(v.id::text, ',' order by v.id::text collate "C") from visit v join traffic_source s on s.id = v.source_id
            join visited_page f on f.id = v.landing_page_id join visit_place p on p.id = v.place_id join visit_device d on d.id = v.device_id
            where {condition}
            """
        );
        Assert.Equal(found.Split(','), listed.Select(v => v.Id.ToString()).Order(StringComparer.Ordinal));
    }

    /// <summary>Pages are what the single visits say of them, one by one.</summary>
    [Theory]
    [InlineData("")]
    [InlineData("&where=device:is:phone&where=medium:is:email")]
    [InlineData("&from=2026-11-01&sort=left")]
    public async Task Pages_are_what_single_visits_saw(string narrowed)
    {
        string from = narrowed.Contains("from=", StringComparison.Ordinal) ? "" : "from=2020-01-01";
        var report = await Host.GetJsonAsync($"/api/v1/arrivals/pages?{from}&size=500{narrowed}");
        var expected =
            new Dictionary<string, (long Seen, HashSet<string> Visits, long Entered, long Left, double Seconds, long Followed)>();
        string next = "";
        while (next is not null)
        {
            var page = await Host.GetJsonAsync(
                $"/api/v1/visits?{from}&size=300{narrowed.Replace("&sort=left", "", StringComparison.Ordinal)}{(next.Length == 0 ? "" : "&after=" + next)}"
            );
            foreach (var visit in page["visits"]!.AsArray())
            {
                var steps = (await Host.GetJsonAsync($"/api/v1/visits/{visit!.Text("id")}"))["steps"]!
                    .AsArray()
                    .Where(s => s!.Text("kind") == "page")
                    .ToList();
                for (int i = 0; i < steps.Count; i++)
                {
                    string name = steps[i]!.Text("name");
                    var known = expected.GetValueOrDefault(name, (0, [], 0, 0, 0, 0));
                    known.Visits.Add(visit!.Text("id"));
                    bool last = i == steps.Count - 1;
                    expected[name] = (
                        known.Seen + 1,
                        known.Visits,
                        known.Entered + (i == 0 ? 1 : 0),
                        known.Left + (last ? 1 : 0),
                        known.Seconds
                            + (
                                last
                                    ? 0
                                    : (
                                        steps[i + 1]!["at"]!.GetValue<DateTimeOffset>() - steps[i]!["at"]!.GetValue<DateTimeOffset>()
                                    ).TotalSeconds
                            ),
                        known.Followed + (last ? 0 : 1)
                    );
                }
            }

            next = page["next"]?.GetValue<string>()!;
        }

        var found = report["pages"]!.AsArray();
        Assert.True(found.Count > 3);
        Assert.Equal(expected.Count, found.Count);
        Assert.Equal(expected.Count, report.Whole("found"));
        foreach (var page in found)
        {
            var (seen, visits, entered, left, seconds, followed) = expected[page!.Text("page")];
            Assert.Equal(
                (seen, visits.Count, entered, left),
                (page!["seen"]!.GetValue<long>(), page.Whole("visits"), page["entered"]!.GetValue<long>(), page["left"]!.GetValue<long>())
            );
            Assert.Equal(followed == 0 ? null : seconds / followed, page["secondsPerView"]?.GetValue<double>() ?? null, (a, b) =>
                a is null ? b is null : Math.Abs(a.Value - b!.Value) < 0.001
            );
        }

        string by = narrowed.Contains("sort=left", StringComparison.Ordinal) ? "left" : "seen";
        Assert.Equal(found.Select(p => p![by]!.GetValue<long>()).OrderDescending(), found.Select(p => p![by]!.GetValue<long>()));
        var searched = await Host.GetJsonAsync($"/api/v1/arrivals/pages?{from}{narrowed}&search=LANTERN&size=1");
        Assert.Contains("lantern", searched["pages"]!.AsArray().Single()!.Text("page"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_browsers_say_of_themselves_makes_rows_and_narrows()
    {
        var report = await Host.GetJsonAsync("/api/v1/arrivals?from=2020-01-01&rows=device,system,browser&size=500");
        var rows = report["rows"]!
            .AsArray()
            .Select(r => string.Join(' ', r!["keys"]!.AsArray().Select(k => k?.ToString() ?? "–")))
            .ToList();
        Assert.Contains("phone Sedge Fernleaf", rows);
        Assert.Contains("computer Quillwort Thistledown", rows);
        Assert.DoesNotContain(rows, r => r.Contains('–', StringComparison.Ordinal));
        var one = report["rows"]!.AsArray().First(r => r!["keys"]![2]!.ToString() == "Mossback")!;
        var narrowed = await Host.GetJsonAsync("/api/v1/arrivals?from=2020-01-01&rows=browser&where=browser:is:Mossback");
        Assert.Equal(one["figures"]!.Whole("visits"), narrowed["total"]!.Whole("visits"));
        var listed = await Host.GetJsonAsync("/api/v1/visits?from=2020-01-01&size=5&where=browser:is:Mossback&where=model:is:");
        Assert.All(listed["visits"]!.AsArray(), v =>
            Assert.Equal(("Mossback", "Bramble", (string?)null), (v!.Text("browser"), v!.Text("system"), (string?)v!["model"]))
        );
    }

    [Fact]
    public async Task One_visit_shows_its_pages_events_and_conversions_in_order()
    {
        var id = await Host.ScalarAsync<Guid>(
            "select id from visit where conversions > 0 and page_views > 1 order by started_at desc limit 1"
        );
        var detail = await Host.GetJsonAsync($"/api/v1/visits/{id}");
        var visit = detail["visit"]!;
        var steps = detail["steps"]!.AsArray().Select(s => s!).ToList();
        Assert.Equal(visit["landingPage"]!.GetValue<string>(), steps[0].Text("name"));
        Assert.Equal(visit["lastPage"]!.GetValue<string>(), steps.Last(s => s.Text("kind") == "page").Text("name"));
        Assert.Equal(visit.Whole("pageViews"), steps.Count(s => s.Text("kind") == "page"));
        Assert.Equal(visit.Whole("conversions"), steps.Count(s => s.Text("kind") == "conversion"));
        Assert.Equal(visit.Whole("events"), steps.Count(s => s.Text("kind") == "event"));
        Assert.Equal(
            steps.Select(s => s["at"]!.GetValue<DateTimeOffset>()).Order(),
            steps.Select(s => s["at"]!.GetValue<DateTimeOffset>())
        );
        Assert.Equal("EUR", steps.First(s => s.Text("kind") == "conversion")["value"]!.Text("currency"));
    }

    [Theory]
    [InlineData("visits?size=0")]
    [InlineData("visits?size=501")]
    [InlineData("visits?after=yesterday")]
    [InlineData("visits?after=99999999999999999999_0")]
    [InlineData("visits?where=colour:is:green")]
    [InlineData("arrivals/products?sort=name")]
    [InlineData("arrivals/products?page=0")]
    [InlineData("arrivals/products?size=501")]
    [InlineData("arrivals/pages?sort=title")]
    [InlineData("arrivals/pages?sort=1")]
    [InlineData("arrivals/pages?page=0")]
    [InlineData("arrivals/pages?size=501")]
    public async Task What_makes_no_sense_is_refused(string path)
    {
        using var viewer = Host.As("viewer");
        Assert.Equal(HttpStatusCode.BadRequest, (await viewer.GetAsync("/api/v1/" + path)).StatusCode);
    }

    [Theory]
    [InlineData("00000000-0000-0000-0000-000000000000")]
    [InlineData("ffffffff-ffff-7fff-bfff-ffffffffffff")]
    public async Task A_visit_nobody_made_is_not_there(string id)
    {
        using var viewer = Host.As("viewer");
        Assert.Equal(HttpStatusCode.NotFound, (await viewer.GetAsync($"/api/v1/visits/{id}")).StatusCode);
    }
}
