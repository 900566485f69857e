using System.Collections.Concurrent;
using System.Net;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Outbox;

namespace PreciseBeacon.WebTests.Proofs;

/// <summary>Checks of landing pages on a small website of the tests' own: what is found, since when, how politely, and by which schedule.</summary>
public sealed class PageCheckTests : IAsyncLifetime
{
    private const string Person = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";
    private readonly int _port = DatabaseCluster.FreePort();
    private readonly ConcurrentQueue<(DateTimeOffset At, string Path)> _asked = new();
    private WebApplication _site = null!;
    private MailServer _mails = null!;
    private BeaconHost _host = null!;
    private HttpClient _client = null!;
    private HttpClient _owner = null!;
    private string _key = "";
    private bool _drops = true;

    private string Site => $"garden.localhost:{_port}";

    public async Task InitializeAsync()
    {
        var builder = WebApplication.CreateBuilder();
        builder.Configuration["urls"] = $"http://127.0.0.1:{_port}";
        builder.Configuration["Logging:LogLevel:Default"] = "Error";
        _site = builder.Build();
        _site.Use(
            (context, next) =>
            {
                _asked.Enqueue((DateTimeOffset.UtcNow, context.Request.Path.Value!));
                return next(context);
            }
        );
        _site.MapGet("/robots.txt", () => "User-agent: *\nDisallow: /private\n");
        _site.MapGet("/good", () => Page("Good"));
        _site.MapGet("/private", () => Page("Private"));
        _site.MapGet("/old", (HttpContext context) => Results.Redirect(_drops ? "/good" : "/good" + context.Request.QueryString));
        _site.MapFallback(() => Page("We could not find that"));
        await _site.StartAsync();
        _mails = MailServer.Start();
        _host = await BeaconHost.StartAsync(visits: 0, more: [$"--Beacon:DemoSiteHost={Site}", .. MailServer.Settings(_mails.Port)]);
        (_client, _owner) = (_host.As("editor"), _host.As("owner"));
        _key = await _host.ScalarAsync<string>(
            "select s.measuring_key from sites s join site_hosts h on h.site_id = s.id where h.host = $1",
            Site
        );
        await _host.ScalarAsync<int>("with l as (update links set retired_at = now() returning 1) select count(*)::int from l");

        IResult Page(string title) =>
            Results.Text(
                $"<!doctype html><head><title>{title}</title><script src=\"http://localhost/beacon.js\" data-key=\"{_key}\"></script></head>",
                "text/html"
            );
    }

    public async Task DisposeAsync()
    {
        _client.Dispose();
        _owner.Dispose();
        await _host.DisposeAsync();
        await _site.DisposeAsync();
        await _mails.DisposeAsync();
    }

    private async Task<JsonNode> ChecksAsync() => await _host.GetJsonAsync("/api/v1/page-checks");

    private async Task<JsonNode> FinishedAsync(int runs)
    {
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select count(*) from page_check_run where finished_at is not null") == runs
        );
        return await ChecksAsync();
    }

    private static string Found(JsonNode checks) =>
        string.Join(
            "; ",
            checks["pages"]!
                .AsArray()
                .Select(p =>
                    $"{new Uri(p!.Text("page")).AbsolutePath}: {string.Join(", ", p!["findings"]!.AsArray().Select(f => f!.Text("rule") + (f!["goneAt"] is null ? "" : " gone")))}"
                )
        );

    /// <summary>What a run found in all, anew, and found gone.</summary>
    private static (int, int, int) CameTo(JsonNode checks, int run)
    {
        var it = checks["history"]![run]!;
        return (it.Whole("found"), it.Whole("appeared"), it.Whole("gone"));
    }

    private async Task StartAsync() =>
        Assert.Equal(HttpStatusCode.NoContent, (await _client.PostAsync("/api/v1/page-checks/run", null)).StatusCode);

    [Fact]
    public async Task Pages_are_checked_politely_and_findings_come_and_go()
    {
        await _host.SaveLinkAsync($"http://{Site}/good", "a");
        await _host.SaveLinkAsync($"http://{Site}/good", "b");
        await _host.SaveLinkAsync($"http://{Site}/old", "c");
        await _host.SaveLinkAsync($"http://{Site}/mistyped", "d");
        await StartAsync();
        Assert.Equal("run-underway", (await _client.CallAsync(HttpMethod.Post, "/api/v1/page-checks/run", new { })).Json.Refusal().Rule);
        var checks = await FinishedAsync(1);
        Assert.Equal("/mistyped: soft-error; /old: tags-dropped; /good: ", Found(checks));
        Assert.Equal((3, 3), (checks["run"]!.Whole("total"), checks["run"]!.Whole("done")));
        Assert.Equal((2, 2, 0), CameTo(checks, 0));
        var old = checks["pages"]![1]!;
        Assert.Equal([302, 200], old["hops"]!.AsArray().Select(h => h!.Whole("status")));
        Assert.Equal(2, checks["pages"]![2]!.Whole("links"));

        // At most one request a second to the host, and nothing but pages: a check by hand asks no robots.txt.
        var asked = _asked.ToList();
        Assert.DoesNotContain(asked, a => a.Path == "/robots.txt");
        Assert.All(asked.Zip(asked.Skip(1)), pair => Assert.True(pair.Second.At - pair.First.At > TimeSpan.FromSeconds(0.9), $"{pair}"));

        // Muted with a reason, it stands behind; mended, it is gone, and the muting with it stays known.
        await _client.DoAsync(
            HttpMethod.Put,
            "/api/v1/page-checks/mute",
            new
            {
                page = $"http://{Site}/mistyped",
                rule = "soft-error",
                reason = "The page opens on Monday.",
            }
        );
        var muted = await ChecksAsync();
        Assert.Equal("/old: tags-dropped; /good: ; /mistyped: soft-error", Found(muted));
        Assert.Equal("The page opens on Monday.", muted["pages"]![2]!["findings"]![0]!.Text("mutedReason"));
        _drops = false;
        await StartAsync();
        checks = await FinishedAsync(2);
        Assert.Contains("/old: tags-dropped gone", Found(checks), StringComparison.Ordinal);
        string since = muted["pages"]![2]!["findings"]![0]!.Text("firstSeen");
        Assert.Equal(
            since,
            checks["pages"]!.AsArray().Single(p => p!.Text("page").EndsWith("/mistyped", StringComparison.Ordinal))!["findings"]![0]!.Text(
                "firstSeen"
            )
        );
        Assert.Equal("not-found", (
                await _client.CallAsync(
                    HttpMethod.Put,
                    "/api/v1/page-checks/mute",
                    new
                    {
                        page = "x",
                        rule = "y",
                        reason = "z",
                    }
                )
            ).Json.Refusal().Rule);
    }

    [Fact]
    public async Task A_page_that_is_clicked_and_measured_no_longer_is_found()
    {
        var link = await _host.SaveLinkAsync($"http://{Site}/good", "a");
        var shortLink = await _host.ScalarAsync<Guid>("select id from short_links where link_id = $1 limit 1", Guid.Parse(link.Text("id")));
        var workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        var raw = new RawEvents();
        var last = new DateTimeOffset(DateTime.UtcNow.Date.AddDays(-6).AddHours(12), TimeSpan.Zero);
        raw.PageEvents.Add(
            new RawPageEvent
            {
                Id = Guid.CreateVersion7(last),
                WorkspaceId = workspace,
                SiteId = await _host.ScalarAsync<Guid>("select site_id from site_hosts where host = $1", Site),
                At = last,
                Kind = PageEventKind.View,
                Url = $"http://{Site}/good",
                Visitor = Guid.NewGuid(),
                UserAgent = Person,
            }
        );
        for (int i = 0; i < 12; i++)
        {
            var at = last.AddDays(2).AddMinutes(i);
            raw.Hits.Add(
                new RawHit(Guid.CreateVersion7(at), workspace, at, shortLink, Guid.NewGuid(), null, HitFlags.None, Person, "", PageKey: 0)
            );
        }

        await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select (select count(*) from visit) * 100 + (select count(*) from click)") == 112
        );
        await StartAsync();
        var checks = await FinishedAsync(1);
        Assert.Equal("/good: measured-no-longer", Found(checks));
        Assert.Contains("for 6 days, though people clicked its links 12 times", checks.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task By_schedule_only_what_robots_txt_allows_is_fetched()
    {
        await _host.SaveLinkAsync($"http://{Site}/good", "a");
        await _host.SaveLinkAsync($"http://{Site}/private", "b");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await _client.CallAsync(HttpMethod.Put, "/api/v1/page-checks/schedule", new { days = 1 })).Status
        );
        Assert.Equal(
            "days-refused",
            (await _owner.CallAsync(HttpMethod.Put, "/api/v1/page-checks/schedule", new { days = 0 })).Json.Refusal().Rule
        );
        await _owner.DoAsync(HttpMethod.Put, "/api/v1/page-checks/schedule", new { days = 1 });
        var checks = await FinishedAsync(1);
        Assert.Equal(1, checks.Whole("days"));
        Assert.Contains("/private: robots-refuse", Found(checks), StringComparison.Ordinal);
        Assert.DoesNotContain(_asked, a => a.Path == "/private");
        Assert.Null(checks["run"]!["startedBy"]);

        // The next is due in a day, not at once; then it is.
        await Task.Delay(TimeSpan.FromSeconds(2.5));
        Assert.Equal(1, await _host.ScalarAsync<long>("select count(*) from page_check_run"));
        await _host.ScalarAsync<Guid>("update page_check_run set started_at = now() - interval '25 hours' returning id");
        await FinishedAsync(2);
    }

    /// <summary>A sheet's pages alone are fetched; what was known of the others stays.</summary>
    [Fact]
    public async Task Pages_of_one_sheet_are_checked_alone()
    {
        await _host.SaveLinkAsync($"http://{Site}/good", "a");
        await _host.SaveLinkAsync($"http://{Site}/good", "b");
        var link = await _host.SaveLinkAsync($"http://{Site}/old", "c");
        await StartAsync();
        await FinishedAsync(1);
        using var form = new MultipartFormDataContent { { new StringContent($"Page\nhttp://{Site}/old\n"), "file", "pages.csv" } };
        using var bring = await _client.PostAsync("/api/v1/batches", form);
        var sheet = Guid.Parse(JsonNode.Parse(await bring.Content.ReadAsStringAsync())!.Text("id"));
        await _host.ScalarAsync<int>(
            "update batch_row set link_id = $1 where batch_id = $2 returning number",
            Guid.Parse(link.Text("id")),
            sheet
        );
        _asked.Clear();
        Assert.Equal(HttpStatusCode.NoContent, (await _client.PostAsync($"/api/v1/page-checks/run?sheet={sheet}", null)).StatusCode);
        var all = await FinishedAsync(2);
        Assert.Equal("/old: tags-dropped; /good: ", Found(all));
        Assert.Equal((1, sheet), (all["run"]!.Whole("total"), Guid.Parse(all["run"]!.Text("batchId"))));
        Assert.Contains(_asked, a => a.Path == "/old");
        var its = await _host.GetJsonAsync($"/api/v1/page-checks?sheet={sheet}");
        Assert.Equal("/old: tags-dropped", Found(its));
        Assert.Equal(2, all["pages"]![1]!.Whole("links"));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await _client.CallAsync(HttpMethod.Get, $"/api/v1/page-checks?sheet={Guid.NewGuid()}")).Status
        );
    }

    [Fact]
    public async Task A_run_is_cancelled_and_what_was_checked_stays()
    {
        for (int i = 0; i < 8; i++)
        {
            await _host.SaveLinkAsync($"http://{Site}/page-{i}", "a");
        }

        await StartAsync();
        await Eventually.Async(async () => (await ChecksAsync())["run"]!.Whole("done") > 0);
        Assert.Equal(HttpStatusCode.NoContent, (await _client.DeleteAsync("/api/v1/page-checks/run")).StatusCode);
        Assert.Equal("no-run", (await _client.CallAsync(HttpMethod.Delete, "/api/v1/page-checks/run")).Json.Refusal().Rule);
        var checks = await ChecksAsync();
        Assert.True(checks["run"]!["cancelled"]!.GetValue<bool>());
        await Task.Delay(TimeSpan.FromSeconds(4));
        Assert.InRange((await ChecksAsync())["pages"]!.AsArray().Count(p => p!["checkedAt"] is not null), 1, 3);
    }

    [Fact]
    public async Task Whoever_asked_is_mailed_what_is_new_once_an_hour_and_ends_it_by_one_click()
    {
        await _host.SaveLinkAsync($"http://{Site}/mistyped", "d");
        using var orla = await SignedInAsync("orla@marrowmere.example");
        using var tomas = await SignedInAsync("tomas@marrowmere.example");
        Assert.Equal(
            "mail-kind",
            (await orla.CallAsync(HttpMethod.Put, "/api/account/mails", new { kind = "invitation", wanted = true })).Json.Refusal().Rule
        );
        foreach (var person in new[] { orla, tomas, orla })
        {
            await person.DoAsync(HttpMethod.Put, "/api/account/mails", new { kind = "page-findings", wanted = true });
        }

        await tomas.DoAsync(HttpMethod.Put, "/api/account/mails", new { kind = "page-findings", wanted = false });
        Assert.Equal(
            ["page-findings"],
            (await orla.DoAsync(HttpMethod.Get, "/api/account/mails"))["kinds"]!.AsArray().Select(k => k!.GetValue<string>())
        );
        Assert.Empty((await tomas.DoAsync(HttpMethod.Get, "/api/account/mails"))["kinds"]!.AsArray());

        await StartAsync();
        await FinishedAsync(1);
        Assert.Equal(1, await WrittenAsync());
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select count(*) from outgoing_mail where sent_at is not null") == 1
        );
        var mail = Assert.Single(_mails.Came);
        Assert.Equal("orla@marrowmere.example", mail.To.Mailboxes.Single().Address);
        Assert.StartsWith("1 new finding on pages of ", mail.Subject, StringComparison.Ordinal);
        Assert.Contains(
            $"http://{Site}/mistyped: The page is the same as for an address that does not exist",
            mail.TextBody,
            StringComparison.Ordinal
        );
        Assert.Contains("/proof?part=pages", mail.TextBody, StringComparison.Ordinal);
        Assert.Equal("List-Unsubscribe=One-Click", mail.Headers["List-Unsubscribe-Post"]);
        string stop = mail.Headers["List-Unsubscribe"]!.Trim('<', '>');
        Assert.Contains(stop, mail.TextBody, StringComparison.Ordinal);

        // A second one within the hour is not written; after it, it is; a run that finds nothing new writes none.
        await _host.SaveLinkAsync($"http://{Site}/mistyped-too", "e");
        await StartAsync();
        await FinishedAsync(2);
        Assert.Equal(1, await WrittenAsync());
        await _host.ScalarAsync<int>(
            "with m as (update outgoing_mail set made_at = made_at - interval '1 hour' returning 1) select count(*)::int from m"
        );
        await StartAsync();
        await FinishedAsync(3);
        Assert.Equal(1, await WrittenAsync());
        await _host.SaveLinkAsync($"http://{Site}/mistyped-again", "f");
        await StartAsync();
        await FinishedAsync(4);
        Assert.Equal(2, await WrittenAsync());

        // Looking at the link ends nothing; one click of a mail program does, without a cookie and from anywhere.
        using var program = _host.Anonymous();
        string path = new Uri(stop).AbsolutePath;
        Assert.Equal(HttpStatusCode.OK, (await program.GetAsync(path)).StatusCode);
        Assert.Single((await orla.DoAsync(HttpMethod.Get, "/api/account/mails"))["kinds"]!.AsArray());
        using var click = new HttpRequestMessage(HttpMethod.Post, path)
        {
            Content = new FormUrlEncodedContent([new("List-Unsubscribe", "One-Click")]),
        };
        click.Headers.Add("Origin", "https://mail.example");
        Assert.Equal(HttpStatusCode.OK, (await program.SendAsync(click)).StatusCode);
        Assert.Empty((await orla.DoAsync(HttpMethod.Get, "/api/account/mails"))["kinds"]!.AsArray());
        Assert.Equal(HttpStatusCode.NotFound, (await program.GetAsync(path[..^3])).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await program.PostAsync("/no-more-mails/x", null)).StatusCode);
    }

    private Task<long> WrittenAsync() => _host.ScalarAsync<long>("select count(*) from outgoing_mail");

    private async Task<HttpClient> SignedInAsync(string mail)
    {
        var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer(), AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{_host.Port}"),
        };
        await RefreshAsync();
        await browser.DoAsync(HttpMethod.Post, "/api/account/sign-in", new { mail });
        await RefreshAsync();
        return browser;

        async Task RefreshAsync()
        {
            browser.DefaultRequestHeaders.Remove("X-Beacon-Token");
            browser.DefaultRequestHeaders.Add("X-Beacon-Token", (await browser.DoAsync(HttpMethod.Get, "/api/account")).Text("token"));
        }
    }
}
