using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Trials of links, from the fetch over the address to the visit, on a small website of the tests' own; and that no figure knows of them.</summary>
public sealed class TrialTests : IAsyncLifetime
{
    private const string Phone = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";

    private readonly int _sitePort = DatabaseCluster.FreePort();
    private WebApplication _site = null!;
    private BeaconHost _host = null!;
    private HttpClient _client = null!;
    private string _key = "";
    private int _fetched;
    private string _mail = "";

    private string Site => $"garden.localhost:{_sitePort}";

    public async Task InitializeAsync()
    {
        var builder = WebApplication.CreateBuilder();
        builder.Configuration["urls"] = $"http://127.0.0.1:{_sitePort}";
        builder.Configuration["Logging:LogLevel:Default"] = "Error";
        _site = builder.Build();
        _site.MapGet("/good", () =>
        {
            Interlocked.Increment(ref _fetched);
            return Html($"<title>Good</title><script async src=\"http://localhost/beacon.js\" data-key=\"{_key}\"></script>");
        });
        _site.MapGet("/old", () => Results.Redirect("/good"));
        _site.MapPost("/received", async (HttpContext context) =>
        {
            using var body = new StreamReader(context.Request.Body);
            _mail = await body.ReadToEndAsync();
            return _mail.Length == 0 ? Results.BadRequest() : Results.Text("/mail/1");
        });
        _site.MapGet("/bare", () => Html("<title>Bare</title>"));
        _site.MapGet("/breaks", (HttpContext context) =>
            context.Request.QueryString.HasValue ? Results.StatusCode(500) : Html("<title>Fine</title>")
        );
        _site.MapGet("/unsubscribe", () =>
        {
            Interlocked.Increment(ref _fetched);
            return Html("gone");
        });
        await _site.StartAsync();
        _host = await BeaconHost.StartAsync(
            visits: 0,
            more: [$"--Beacon:DemoSiteHost={Site}", $"--Beacon:InboxUrl=http://localhost:{_sitePort}"]
        );
        _client = _host.As("editor");
        _key = await _host.ScalarAsync<string>(
            "select s.measuring_key from sites s join site_hosts h on h.site_id = s.id where h.host = $1",
            Site
        );

        static IResult Html(string head) => Results.Text($"<!doctype html><head>{head}</head>", "text/html");
    }

    public async Task DisposeAsync()
    {
        _client.Dispose();
        await _host.DisposeAsync();
        await _site.DisposeAsync();
    }

    private async Task<JsonNode> StartAsync(JsonNode link) =>
        await _client.DoAsync(HttpMethod.Post, "/api/v1/trials", new { linkId = link.Text("id") });

    private async Task<JsonNode> ReadAsync(JsonNode trial) => await _client.DoAsync(HttpMethod.Get, $"/api/v1/trials/{trial.Text("id")}");

    private static string Steps(JsonNode trial) =>
        string.Concat(trial["steps"]!.AsArray().Select(s => char.ToUpperInvariant(s!.Text("state")[0])));

    private static string Rules(JsonNode trial) => string.Join(", ", trial["findings"]!.AsArray().Select(f => f!.Text("rule")));

    /// <summary>Opens a trial's address as some device does.</summary>
    private async Task<(HttpStatusCode Status, string? To)> OpenAsync(JsonNode trial, string userAgent = Phone, HttpMethod? method = null)
    {
        var address = new Uri(trial.Text("address"));
        using var client = _host.Anonymous();
        using var request = new HttpRequestMessage(method ?? HttpMethod.Get, address.PathAndQuery);
        request.Headers.Host = address.Authority;
        request.Headers.TryAddWithoutValidation("User-Agent", userAgent);
        using var answer = await client.SendAsync(request);
        return (answer.StatusCode, answer.Headers.Location?.OriginalString);
    }

    private async Task ReportAsync(string url, string userAgent = Phone, string? visitor = null) =>
        Assert.Equal(
            HttpStatusCode.NoContent,
            (
                await _host.MeasureAsync(
                    new
                    {
                        k = _key,
                        u = url,
                        d = visitor,
                    },
                    $"http://{Site}",
                    userAgent
                )
            ).StatusCode
        );

    private async Task<JsonNode> ArrivesAsync(JsonNode trial, string steps)
    {
        JsonNode seen = trial;
        await Eventually.Async(async () => Steps(seen = await ReadAsync(trial)) == steps);
        return seen;
    }

    [Fact]
    public async Task A_click_is_followed_to_its_sorted_visit()
    {
        var link = await _host.SaveLinkAsync($"http://{Site}/good");
        var trial = await StartAsync(link);
        Assert.Equal(("WWWW", "", "waiting", 2), (Steps(trial), Rules(trial), trial.Text("verdict"), _fetched));
        Assert.Equal("Good", trial.Text("pageTitle"));
        Assert.StartsWith($"http://{_host.ShortHost}/try/", trial.Text("address"), StringComparison.Ordinal);

        // A scanner of mails looks first, by headers alone, then as a crawler, then as if it were a browser; a person comes later.
        Assert.Equal(HttpStatusCode.Found, (await OpenAsync(trial, "Mozilla/5.0 (compatible; mail-check)", HttpMethod.Head)).Status);
        Assert.Equal(HttpStatusCode.Found, (await OpenAsync(trial, "Examplebot/1.0 (+https://bot.example)")).Status);
        Assert.Equal("WWWW", Steps(await ReadAsync(trial)));
        Assert.Equal(HttpStatusCode.Found, (await OpenAsync(trial, "Mozilla/5.0 (Desktop) Fernleaf/11.0")).Status);
        var (status, to) = await OpenAsync(trial);
        Assert.Equal((HttpStatusCode.Found, link["link"]!.Text("url")), (status, to));
        Assert.Equal("DDWW", Steps(await ReadAsync(trial)));
        await ReportAsync(to!);

        var done = await ArrivesAsync(trial, "DDDD");
        Assert.Equal(("works", ""), (done.Text("verdict"), Rules(done)));
        Assert.Equal(("Lantern Nights", "Gate poster"), (done["visit"]!.Text("campaign"), done["visit"]!.Text("placement")));
        Assert.Contains("campaign Lantern Nights, placement Gate poster", done.Text("says"), StringComparison.Ordinal);
        Assert.Equal(("phone", 2), (done["click"]!.Text("device"), done.Whole("otherOpenings")));

        // All steps are done, so the address ends.
        Assert.Equal(HttpStatusCode.Gone, (await OpenAsync(trial)).Status);
        Assert.Equal("DDDD", Steps(await ReadAsync(trial)));
        Assert.Equal(trial.Text("id"), (await _host.GetJsonAsync($"/api/v1/trials?link={link.Text("id")}")).AsArray().Single()!.Text("id"));
    }

    [Fact]
    public async Task A_redirect_that_drops_the_tags_fails_the_trial_at_the_right_step_and_hop()
    {
        var link = await _host.SaveLinkAsync($"http://{Site}/old");
        var trial = await StartAsync(link);
        Assert.Equal("tags-dropped", Rules(trial));
        Assert.Equal(1, trial["findings"]![0]!.Whole("hop"));
        Assert.Equal([302, 200], trial["hops"]!.AsArray().Select(h => h!.Whole("status")));
        await OpenAsync(trial);
        await ReportAsync($"http://{Site}/good");
        var failed = await ArrivesAsync(trial, "DDFD");
        Assert.Equal(("fails", "arrived-without-tags, tags-dropped"), (failed.Text("verdict"), Rules(failed)));
        Assert.Contains("They are lost at redirect 1", failed.Text("says"), StringComparison.Ordinal);

        // Mended: the short link leads straight to the page.
        var route = await _client.DoAsync(HttpMethod.Get, $"/api/v1/links/{link.Text("id")}/route");
        route["leadsTo"] = $"http://{Site}/good";
        route["endsAt"] = null;
        await _client.DoAsync(HttpMethod.Put, $"/api/v1/links/{link.Text("id")}/route", route);
        JsonNode again = trial;
        await Eventually.Async(async () => Rules(again = await StartAsync(link)).Length == 0);
        (HttpStatusCode Status, string? To) opened = default;
        await Eventually.Async(async () => (opened = await OpenAsync(again)).To?.Contains("/good?", StringComparison.Ordinal) == true);
        await ReportAsync(opened.To!);
        Assert.Equal("works", (await ArrivesAsync(again, "DDDD")).Text("verdict"));
    }

    /// <summary>Two people behind one address with the same browser: the trial of one never takes the visit of the other.</summary>
    [Fact]
    public async Task A_trial_takes_no_visit_of_somebody_else_behind_the_same_address()
    {
        var link = await _host.SaveLinkAsync($"http://{Site}/good");
        var trial = await StartAsync(link);
        var (_, to) = await OpenAsync(trial);
        await ReportAsync(to!, visitor: "4f2b9c1e7a6d4e0f8b3c5d7e9f1a2b3c");
        await ArrivesAsync(trial, "DDDD");
        await _host.ClickAsync(new Uri(link.Text("shortUrl")).AbsolutePath);
        await ReportAsync(link["link"]!.Text("url"), visitor: "9d8c7b6a5f4e3d2c1b0a9f8e7d6c5b4a");
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit") == 1);
        Assert.Equal("DDDD", Steps(await ReadAsync(trial)));
        Assert.Equal(1, await _host.ScalarAsync<long>("select count(*) from trial_visit"));
    }

    /// <summary>A scanner that follows every link in whatever guise uses nothing up; each link is tried as a person opens it.</summary>
    [Fact]
    public async Task Each_link_of_a_mail_is_tried_as_it_is_clicked()
    {
        string[] pages = ["good?a=1", "good?a=2", "old", "good?a=3"];
        string html =
            $"<html><title>Autumn</title><body>{string.Concat(pages.Select(p => $"<a href=\"http://{Site}/{p}\">{p}</a>"))}</body></html>";
        using var bring = await _client.PostAsync("/api/v1/mails?name=autumn.html", new StringContent(html));
        string path = $"/api/v1/mails/{JsonNode.Parse(await bring.Content.ReadAsStringAsync())!.Text("id")}";
        var (early, refused) = await _client.CallAsync(HttpMethod.Post, $"{path}/trial");
        Assert.Equal((HttpStatusCode.Conflict, "links-not-made"), (early, refused.Refusal().Rule));
        await _client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                placement = "The Trellis – header button",
                campaign = "Lantern Nights",
                contentBy = "position",
                shorten = true,
                revision = 1,
            }
        );
        await _client.DoAsync(HttpMethod.Post, $"{path}/make");
        Assert.Empty((await _host.GetJsonAsync($"{path}/trial"))["links"]!.AsArray());

        var sent = await _client.DoAsync(HttpMethod.Post, $"{path}/trial");
        Assert.Equal($"http://localhost:{_sitePort}/mail/1", sent.Text("inbox"));
        Assert.Equal((4, 0, 0), (sent["links"]!.AsArray().Count, sent.Whole("tried"), sent.Whole("left")));
        var trials = sent["links"]!.AsArray().Select(l => l!["trial"]!).ToList();
        Assert.All(trials, t => Assert.Contains($"\"{t.Text("address")}\"", _mail, StringComparison.Ordinal));
        Assert.Equal(["", "", "tags-dropped", ""], trials.Select(Rules));
        Assert.DoesNotContain($"http://{Site}", _mail, StringComparison.Ordinal);

        foreach (
            string agent in (string[])
                [
                    "Mozilla/5.0 (compatible; mail-check)",
                    "Examplebot/1.0 (+https://bot.example)",
                    "Sieve/3.1",
                    "Mozilla/5.0 (Computer) Fernleaf/9.0",
                ]
        )
        {
            foreach (var trial in trials)
            {
                await OpenAsync(trial, agent, HttpMethod.Head);
                Assert.Equal(HttpStatusCode.Found, (await OpenAsync(trial, agent)).Status);
            }
        }

        Assert.Equal(0, (await _host.GetJsonAsync($"{path}/trial")).Whole("tried"));
        Assert.Equal("WWWW", Steps(await ReadAsync(trials[0])));
        foreach (int clicked in (int[])[1, 2])
        {
            var (_, to) = await OpenAsync(trials[clicked]);
            await ReportAsync(clicked == 2 ? $"http://{Site}/good" : to!);
        }

        await ArrivesAsync(trials[1], "DDDD");
        await ArrivesAsync(trials[2], "DDFD");
        var read = await _host.GetJsonAsync($"{path}/trial");
        Assert.Equal((2, 1), (read.Whole("tried"), read.Whole("failed")));
        Assert.Equal(["waiting", "works", "fails", "waiting"], read["links"]!.AsArray().Select(l => l!["trial"]!.Text("verdict")));
        Assert.Equal(["good?a=1", "good?a=2", "old", "good?a=3"], read["links"]!.AsArray().Select(l => l!.Text("text")));
        Assert.Equal(
            0,
            await _host.ScalarAsync<long>("select count(*) from visit") + await _host.ScalarAsync<long>("select count(*) from hit")
        );
    }

    [Theory]
    [InlineData("/bare", "script-missing")]
    [InlineData("/breaks", "error-status")]
    [InlineData("/nowhere", "error-status")]
    public async Task What_is_wrong_with_the_page_is_found_before_anybody_clicks(string path, string rules) =>
        Assert.Equal(rules, Rules(await StartAsync(await _host.SaveLinkAsync($"http://{Site}{path}"))));

    [Fact]
    public async Task A_page_that_unsubscribes_is_never_fetched()
    {
        Assert.Equal("not-fetched", Rules(await StartAsync(await _host.SaveLinkAsync($"http://{Site}/unsubscribe"))));
        Assert.Equal(0, _fetched);
    }

    /// <summary>No use is taken, an ended or paused link says so, and after half an hour the address says that it is over.</summary>
    [Fact]
    public async Task A_trial_uses_nothing_up_and_sees_what_visitors_see()
    {
        var link = await _host.SaveLinkAsync($"http://{Site}/good");
        string path = $"/api/v1/links/{link.Text("id")}/route";
        var route = await _client.DoAsync(HttpMethod.Get, path);
        route["mostUses"] = 1;
        await _client.DoAsync(HttpMethod.Put, path, route);
        var trial = await StartAsync(link);
        for (int i = 0; i < 3; i++)
        {
            Assert.Equal(HttpStatusCode.Found, (await OpenAsync(trial)).Status);
        }

        Assert.Equal(1, await _host.ScalarAsync<int>("select uses_left from links where id = $1", Guid.Parse(link.Text("id"))));
        route = await _client.DoAsync(HttpMethod.Get, path);
        route["paused"] = true;
        await _client.DoAsync(HttpMethod.Put, path, route);
        var second = await StartAsync(link);
        await Eventually.Async(async () => (await OpenAsync(second)).Status == HttpStatusCode.NotFound);
        var seen = await ReadAsync(second);
        Assert.Contains("link-paused", Rules(seen), StringComparison.Ordinal);
        Assert.Equal("fails", seen.Text("verdict"));

        await _host.ScalarAsync<Guid>("update trial set ends_at = now() where id = $1 returning id", Guid.Parse(trial.Text("id")));
        Assert.Equal(HttpStatusCode.Gone, (await OpenAsync(trial)).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await _host.ClickAsync($"/try/{new string('0', 24)}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await _host.ClickAsync("/try/short")).StatusCode);
    }

    [Fact]
    public async Task A_link_without_a_short_link_and_one_that_is_not_there()
    {
        using var client = _host.As("editor");
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{Site}/good",
                campaign = "Lantern Nights",
                placement = "Gate poster",
                shorten = false,
                fields = new { utm_content = "without" },
            }
        );
        var trial = await StartAsync(link);
        Assert.StartsWith($"http://127.0.0.1:{_host.Port}/try/", trial.Text("address"), StringComparison.Ordinal);
        var (_, to) = await OpenAsync(trial);
        Assert.Equal(link["link"]!.Text("url"), to);
        await ReportAsync(to!);
        Assert.Equal("works", (await ArrivesAsync(trial, "DDDD")).Text("verdict"));

        Assert.Equal(
            "not-found",
            (await _client.CallAsync(HttpMethod.Post, "/api/v1/trials", new { linkId = Guid.NewGuid() })).Json.Refusal().Rule
        );
        Assert.Equal("not-found", (await _client.CallAsync(HttpMethod.Post, "/api/v1/trials", new { })).Json.Refusal().Rule);
        using var viewer = _host.As("viewer");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await viewer.PostAsJsonAsync("/api/v1/trials", new { linkId = link.Text("id") })).StatusCode
        );
    }

    /// <summary>Everything that can be read, before and after fifty trials with their clicks, visits and conversions; and after all was worked out again.</summary>
    [Fact]
    public async Task Fifty_trials_leave_no_trace_in_any_figure()
    {
        var link = await _host.SaveLinkAsync($"http://{Site}/good");
        await _host.ClickAsync(new Uri(link.Text("shortUrl")).AbsolutePath, "Mozilla/5.0 (Tablet) Fernleaf/10.0");
        await ReportAsync(link["link"]!.Text("url"), "Mozilla/5.0 (Tablet) Fernleaf/10.0");
        string[] walk =
        [
            "/api/v1/arrivals?rows=channel,campaign,placement,link",
            "/api/v1/arrivals?rows=device&series=day",
            "/api/v1/arrivals?rows=first.source",
            "/api/v1/arrivals/pages",
            "/api/v1/arrivals/paths",
            "/api/v1/visits",
            $"/api/v1/links/{link.Text("id")}",
            $"/api/v1/links/{link.Text("id")}/counts",
            "/api/v1/links?size=50",
            "/api/v1/campaigns",
        ];
        async Task<string> SeenAsync()
        {
            var seen = new List<string>();
            foreach (string path in walk)
            {
                seen.Add($"{path} {await _host.GetJsonAsync(path)}");
            }

            return string.Join('\n', seen);
        }

        await Eventually.Async(async () => (await _host.GetJsonAsync("/api/v1/visits"))["visits"]!.AsArray().Count == 1);
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select (select count(*) from visit_due) + (select count(*) from hit_due)") == 0
        );
        string before = await SeenAsync();
        for (int i = 0; i < 50; i++)
        {
            string agent = $"Mozilla/5.0 (Phone; Mobile) Fernleaf/12.{i}";
            var trial = await StartAsync(link);
            var (_, to) = await OpenAsync(trial, agent);
            await ReportAsync(to!, agent);
            await _host.MeasureAsync(
                new
                {
                    k = _key,
                    u = to,
                    e = "conversion",
                    n = "order",
                    o = $"trial-{i}",
                    v = 12.5,
                    c = "EUR",
                },
                $"http://{Site}",
                agent
            );
        }

        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from trial_visit") == 50);
        Assert.Equal(before, await SeenAsync());

        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit_due") == 0);
        Assert.Equal(before, await SeenAsync());
        Assert.Equal(50, await _host.ScalarAsync<long>("select count(*) from trial_visit"));
    }
}
