using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Ledger;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Ledger;

/// <summary>Counts of one link, signs that its printed code is used elsewhere, and the page for people without account.</summary>
[Collection(nameof(DemoHost))]
public sealed class LinkResultTests(DemoHost demo)
{
    private const string Phone = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";
    private const string Computer = "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1";
    private const string Program = "curl/8.5.0"; // among the known crawlers of the data set

    private static string SlugOf(JsonNode link, string which = "shortUrl") => "/" + link.Text(which).Split('/')[^1];

    private async Task HitAsync(string slug, string userAgent, string? referrer = null)
    {
        await Eventually.Async(async () =>
        {
            using var client = demo.Host.Anonymous();
            using var request = new HttpRequestMessage(HttpMethod.Get, slug);
            request.Headers.Host = demo.Host.ShortHost;
            request.Headers.TryAddWithoutValidation("User-Agent", userAgent);
            if (referrer is not null)
            {
                request.Headers.TryAddWithoutValidation("Referer", referrer);
            }

            using var answer = await client.SendAsync(request);
            return answer.StatusCode == HttpStatusCode.Found;
        });
    }

    [Fact]
    public async Task People_are_counted_over_time_by_device_and_referrer_and_the_rest_apart()
    {
        var link = await demo.Host.SaveLinkAsync();
        await HitAsync(SlugOf(link), Phone, "https://vale.example/walks");
        await HitAsync(SlugOf(link), Phone); // a double tap
        await HitAsync(SlugOf(link), Computer);
        await HitAsync(SlugOf(link), Program);
        await HitAsync(SlugOf(link, "codeShortUrl"), Phone);
        string path = $"/api/v1/links/{link.Text("id")}/counts";
        JsonNode counts = new JsonObject();
        await Eventually.Async(async () =>
        {
            counts = (await demo.Host.GetJsonAsync($"{path}?range=day"))["counts"]!;
            return counts["clicks"]!.GetValue<long>() == 2
                && counts["scans"]!.GetValue<long>() == 1
                && counts["others"]!.AsObject().Count == 2;
        });
        Assert.Equal((1, 1), (counts["others"].Whole("Crawler"), counts["others"].Whole("DoubleTap")));
        Assert.Equal(2, counts.Whole("unique")); // one visitor clicked and scanned
        Assert.Equal("hour", counts.Text("unit"));
        Assert.InRange(counts["series"]!.AsArray().Count, 24, 49); // yesterday's hours, and today's so far
        foreach (string range in new[] { "day", "week", "month", "all" })
        {
            var c = (await demo.Host.GetJsonAsync($"{path}?range={range}"))["counts"]!;
            Assert.Equal(3, c["series"]!.AsArray().Sum(s => s.Whole("clicks") + s.Whole("scans")));
            Assert.Equal(3, c["weekHours"]!.AsArray().Sum(n => n!.GetValue<long>()));
            Assert.Equal(168, c["weekHours"]!.AsArray().Count);
            Assert.Equal(["phone", "computer"], c["devices"]!.AsArray().Select(d => d.Text("name")));
            Assert.Equal(["", "vale.example"], c["referrers"]!.AsArray().Select(d => d.Text("name")));
            Assert.Equal("", c["countries"]![0].Text("name")); // this machine is in no country
        }

        Assert.Equal(0, (await demo.Host.GetJsonAsync($"{path}?range=own&from=2020-01-01&to=2020-03-01"))["counts"].Whole("clicks"));
        using var client = demo.Host.As("viewer");
        foreach (string wrong in new[] { "range=year", "range=own", "range=own&from=2020-02-01&to=2020-01-01" })
        {
            Assert.Equal("range-unknown", (await client.CallAsync(HttpMethod.Get, $"{path}?{wrong}")).Json.Refusal().Rule);
        }
    }

    /// <summary>Three scans by one person in a few minutes can lead to one visit (rule 6: no gap over 30 minutes), so one is expected.</summary>
    [Fact]
    public async Task Visits_expected_are_those_that_clicks_can_have_led_to()
    {
        var link = await demo.Host.SaveLinkAsync();
        await HitAsync(SlugOf(link, "codeShortUrl"), Phone);
        await using (
            var later = demo.Host.Database.CreateCommand(
                """
                insert into hit (id, workspace_id, at, short_link_id, visitor, flags, user_agent, referrer)
                select gen_random_uuid(), workspace_id, at + minute * interval '1 minute', short_link_id, visitor, 0, user_agent, ''
                from hit, unnest(array[10, 40, 71]) minute where short_link_id = (select id from short_links where link_id = $1 and use = 'Code');
                """
            )
        )
        {
            later.Parameters.Add(new() { Value = Guid.Parse(link.Text("id")) });
            string path =
                $"/api/v1/links/{link.Text("id")}/counts?range=own&from={DateTime.UtcNow.AddDays(-1):yyyy-MM-dd}&to={DateTime.UtcNow.AddDays(2):yyyy-MM-dd}";
            await Eventually.Async(async () => (await demo.Host.GetJsonAsync(path))["counts"].Whole("scans") == 1);
            Assert.Equal(1, (await demo.Host.GetJsonAsync(path))["counts"].Whole("visitsDue"));
            await later.ExecuteNonQueryAsync();
            await using var due = demo.Host.Database.CreateCommand(
                "insert into hit_due (workspace_id, visitor, short_link_id, from_at, to_at, hits) select workspace_id, visitor, short_link_id, min(at), max(at), count(*) from hit where short_link_id = (select id from short_links where link_id = $1 and use = 'Code') group by 1, 2, 3"
            );
            due.Parameters.Add(new() { Value = Guid.Parse(link.Text("id")) });
            await due.ExecuteNonQueryAsync();
            await Eventually.Async(async () => (await demo.Host.GetJsonAsync(path))["counts"].Whole("scans") == 4);

            // At 0, 10 and 40 minutes the visit still goes on; at 71 a new one is due.
            Assert.Equal(2, (await demo.Host.GetJsonAsync(path))["counts"].Whole("visitsDue"));
        }
    }

    /// <summary>A link's cost in the Ledger and its placement's on the campaign's page come from one rule: the links' parts add up to the whole.</summary>
    [Fact]
    public async Task Costs_of_a_placements_links_add_up_to_its_cost_on_the_campaigns_page()
    {
        await demo.Host.SaveLinkAsync(placement: "Station poster");
        await demo.Host.SaveLinkAsync(placement: "Station poster", content: "second");
        var campaign = (await demo.Host.GetJsonAsync("/api/v1/campaigns")).AsArray().Single(c => c.Text("name") == "Lantern Nights");
        var results = (await demo.Host.GetJsonAsync($"/api/v1/campaigns/{campaign.Text("id")}"))["results"]!.AsArray();
        foreach (string placement in new[] { "Station poster", "Wendfar search ads" })
        {
            var result = results.Single(r => r!["placement"]?.GetValue<string>() == placement);
            var rows = (
                await demo.Host.GetJsonAsync(
                    $"/api/v1/links?campaign={campaign.Text("id")}&search={Uri.EscapeDataString(placement)}&state=all&size=200"
                )
            )["links"]!
                .AsArray()
                .Where(l => l.Text("placement") == placement)
                .ToList();
            Assert.Equal(result.Whole("links"), rows.Count);
            decimal whole = decimal.Parse(result!["cost"].Text("amount"), CultureInfo.InvariantCulture),
                parts = rows.Sum(r => r!["cost"] is { } cost ? decimal.Parse(cost.Text("amount"), CultureInfo.InvariantCulture) : 0);
            Assert.True(whole > 0);
            Assert.InRange(parts, whole - (0.005m * (rows.Count + 1)), whole + (0.005m * (rows.Count + 1))); // each is rounded for showing
        }
    }

    [Fact]
    public async Task A_code_that_is_used_in_a_mail_or_on_a_page_is_noticed_and_scans_alone_are_not()
    {
        var link = await demo.Host.SaveLinkAsync();
        string code = SlugOf(link, "codeShortUrl");
        await HitAsync(code, Phone);
        await HitAsync(code, Computer, $"http://{BeaconHost.GardenHost}/visit"); // one's own site is no reuse
        await HitAsync(SlugOf(link), Phone, "https://herald.example/"); // nor is the short link for texts, wherever it stands
        string path = $"/api/v1/links/{link.Text("id")}/counts";
        await Eventually.Async(async () => (await demo.Host.GetJsonAsync(path))["counts"].Whole("scans") == 2);
        Assert.Empty((await demo.Host.GetJsonAsync(path))["reuse"]!.AsArray());

        await HitAsync(code, "Mozilla/5.0 (Computer; x86_64) Fernleaf/13", "https://herald.example/what-to-do");
        await Eventually.Async(async () => (await demo.Host.GetJsonAsync(path))["reuse"]!.AsArray().Count == 1);
        var evidence = (await demo.Host.GetJsonAsync(path))["reuse"]![0]!;
        Assert.Equal(("herald.example", "otherSite", 1), (evidence.Text("host"), evidence.Text("kind"), evidence.Whole("hits")));
    }

    [Fact]
    public async Task Results_are_shown_to_whoever_has_the_address_until_it_is_taken_back()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var editor = demo.Host.As("editor");
        string path = $"/api/v1/links/{link.Text("id")}/results-page";
        string address = (await editor.DoAsync(HttpMethod.Post, path)).Text("address");
        Assert.Equal(address, (await editor.DoAsync(HttpMethod.Post, path)).Text("address"));
        using var anybody = demo.Host.Anonymous();
        string local = new Uri(address).AbsolutePath;
        using var shown = await anybody.GetAsync(local);
        string token = local.Split('/')[^1];
        var about = await anybody.DoAsync(HttpMethod.Get, $"/api/v1/results/{token}");
        Assert.Contains("Lantern Nights", about.Text("title"), StringComparison.Ordinal);
        Assert.Null(about["currency"]);
        var counts = await anybody.DoAsync(HttpMethod.Get, $"/api/v1/results/{token}/counts");
        Assert.Equal((0, 30), (counts["all"].Whole("clicks"), counts["month"]!["series"]!.AsArray().Count));
        var line = await anybody.DoAsync(HttpMethod.Get, $"/api/v1/results/{token}/arrivals?measures=clicks,visits,revenue");
        Assert.Equal((0, 0), (line["total"].Whole("clicks"), line["rows"]!.AsArray().Count));
        Assert.Null(line["total"]!["revenue"]);
        Assert.Contains("no-referrer", shown.Headers.GetValues("Referrer-Policy"));
        Assert.True(shown.Headers.CacheControl!.NoStore);
        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync(local[..^1] + (local[^1] == '0' ? '1' : '0'))).StatusCode);
        await editor.DoAsync(HttpMethod.Delete, path);
        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync(local)).StatusCode);
        Assert.NotEqual(address, (await editor.DoAsync(HttpMethod.Post, path)).Text("address"));
    }
}
