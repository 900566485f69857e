using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.AccessLogs;

/// <summary>An access log becomes visits: once, whatever is read again, and only what people saw.</summary>
public sealed class AccessLogTests : IAsyncLifetime
{
    private const string Phone = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";
    private const string Computer = "Mozilla/5.0 (Bramble 11; x64) Fernleaf/12.1";

    private BeaconHost _host = null!;
    private HttpClient _client = null!;

    /// <summary>Noon of a day ten days ago, which is no clock change's.</summary>
    private DateTime _noon;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync();
        _client = _host.As("editor");
        _noon = DateTime.UtcNow.Date.AddDays(-10).AddHours(12);
    }

    public async Task DisposeAsync()
    {
        _client.Dispose();
        await _host.DisposeAsync();
    }

    private string Line(
        string client,
        int second,
        string target,
        string userAgent = Phone,
        string referrer = "-",
        string method = "GET",
        int status = 200
    ) =>
        $"{client} - - [{_noon.AddSeconds(second).ToString("dd/MMM/yyyy:HH:mm:ss", CultureInfo.InvariantCulture)} +0000] \"{method} {target} HTTP/1.1\" {status} 512 \"{referrer}\" \"{userAgent}\"";

    private string Day => _noon.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    [Fact]
    public async Task People_s_views_become_visits_and_everything_else_says_why_not()
    {
        string[] lines =
        [
            // One person: two pages, then another arrival within the half hour, then a pause.
            Line("192.0.2.1", 0, "/lantern-nights?utm_source=nattervine&utm_medium=social", referrer: "https://nattervine.example/"),
            Line("192.0.2.1", 60, "/shop/bulbs", referrer: $"http://{BeaconHost.GardenHost}/lantern-nights"),
            Line("192.0.2.1", 120, "/visit?utm_source=wendfar&utm_medium=cpc"),
            Line("192.0.2.1", 120 + 1801, "/visit"),
            // The same address with another browser is somebody else, and so is another address.
            Line("192.0.2.1", 5, "/visit", Computer),
            Line("2001:db8::9", 5, "/visit"),
            // Twice in the same second: two views of one visit.
            Line("192.0.2.3", 9, "/visit"),
            Line("192.0.2.3", 9, "/visit"),
            Line("192.0.2.4", 10, "/style.css"),
            Line("192.0.2.4", 10, "/robots.txt"),
            Line("192.0.2.4", 11, "/gone", status: 404),
            Line("192.0.2.4", 12, "/basket", method: "POST"),
            Line("192.0.2.5", 13, "/", "SkeinlyCrawler/2.0 (+https://skeinly.example/crawler)"),
            Line("192.0.2.6", 14, "/", "-"),
            Line("192.0.2.7", 15, "https://elsewhere.example/"),
            "elsewhere.example:80 " + Line("192.0.2.7", 15, "/"),
            $"{BeaconHost.GardenHost} " + Line("192.0.2.8", 16, "/"),
            Line("192.0.2.7", 30 * 86_400, "/"),
            Line("192.0.2.7", -1_000 * 86_400, "/"),
            "this is no line of a log",
            new string('x', 70_000),
        ];
        var answer = await SendAsync(string.Join('\n', lines) + "\r\n");
        Assert.Equal(
            ("read", 21L, 9L, 1.0),
            (answer.Text("state"), answer["read"]!.GetValue<long>(), Kept(answer), answer["done"]!.GetValue<double>())
        );
        Assert.Equal(
            """{"asset":2,"crawler":2,"inFuture":1,"otherHost":2,"otherMethod":1,"tooOld":1,"unreadable":2,"unsuccessful":1}""",
            answer["skipped"]!.ToJsonString()
        );
        Assert.Equal((Day, Day), (answer.Text("firstDay"), answer.Text("lastDay")));

        var total = await TotalAsync(visits: 7);
        Assert.Equal((7L, 9L, 5L), (total.Whole("visits"), total.Whole("pageViews"), total.Whole("visitors")));
        var sources = await _host.GetJsonAsync($"/api/v1/arrivals?from={Day}&to={Day}&rows=source,landingPage");
        Assert.Equal(
            [
                $"direct {BeaconHost.GardenHost}/ 1",
                $"direct {BeaconHost.GardenHost}/visit 4",
                $"nattervine {BeaconHost.GardenHost}/lantern-nights 1",
                $"wendfar {BeaconHost.GardenHost}/visit 1",
            ],
            sources["rows"]!
                .AsArray()
                .Select(r => $"{r!["keys"]![0]} {r["keys"]![1]} {r["figures"]!["visits"]}")
                .Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public async Task Reading_the_same_or_an_overlapping_file_again_adds_nothing()
    {
        var lines = Enumerable.Range(0, 3_000).Select(i => Line($"192.0.2.{i % 200}", i, $"/page-{i % 7}")).ToList();
        lines.Insert(10, lines[10]);
        Assert.Equal(2_001, Kept(await SendAsync(string.Join('\n', lines.Take(2_001)))));
        var again = await SendAsync(string.Join('\n', lines.Take(2_001)));
        Assert.Equal((0L, """{"alreadyRead":2001}"""), (Kept(again), again["skipped"]!.ToJsonString()));

        // The rest of the day in a packed file that begins with what was read.
        var rest = await SendAsync(string.Join('\n', lines), packed: true);
        Assert.Equal((1_000L, """{"alreadyRead":2001}"""), (Kept(rest), rest["skipped"]!.ToJsonString()));

        // Two files that were joined, each packed for itself, a line of it twice as often as before.
        var joined = await SendAsync($"{lines[20]}\n{lines[20]}\n", packed: true, then: $"{lines[20]}\n");
        Assert.Equal((2L, """{"alreadyRead":1}"""), (Kept(joined), joined["skipped"]!.ToJsonString()));
        Assert.Equal(3_003, await _host.ScalarAsync<long>("select count(*) from page_event where from_log"));
        var total = await TotalAsync(visits: 200);
        Assert.Equal((200L, 3_003L), (total.Whole("visits"), total.Whole("pageViews")));
        Assert.Equal(4, (await _host.GetJsonAsync("/api/v1/imports/access-log")).AsArray().Count);
    }

    [Fact]
    public async Task Days_the_pages_measured_themselves_are_left_out_where_asked_for()
    {
        // What a server says of an order measures no page.
        using var shop = _host.As("measuring");
        await shop.DoAsync(
            HttpMethod.Post,
            "/api/v1/conversions",
            new
            {
                eventId = "e1",
                site = BeaconHost.GardenHost,
                orderId = "A1",
            }
        );
        _noon = DateTime.UtcNow.AddMinutes(-1);
        string log = $"{Line("192.0.2.1", 0, "/visit")}\n{Line("192.0.2.2", 1, "/visit")}";
        Assert.Equal(1, Kept(await SendAsync(Line("192.0.2.3", 2, "/visit"), measuredDays: "leaveOut")));

        using (await _host.MeasureAsync(new { k = "demo-garden", u = $"http://{BeaconHost.GardenHost}/visit" })) { }

        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select count(*) from page_event where not from_log and not verified") > 0
        );
        var without = await SendAsync(log, measuredDays: "leaveOut");
        Assert.Equal((0L, """{"measuredAlready":2}"""), (Kept(without), without["skipped"]!.ToJsonString()));
        Assert.Equal(2, Kept(await SendAsync(log)));
    }

    /// <summary>While the day's salt lives, a visit from a log finds the click that led to it; also one of a workspace's first seconds, whose salt is not shared yet.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_click_of_today_finds_its_visit_in_today_s_log(bool early)
    {
        var link = await _host.SaveLinkAsync();
        using (var click = await _host.ClickAsync(new Uri(link.Text("codeShortUrl")).AbsolutePath))
        {
            Assert.Equal(HttpStatusCode.Found, click.StatusCode);
            if (early)
            {
                await using var none = _host.Database.CreateCommand("delete from salt");
                await none.ExecuteNonQueryAsync();
            }

            _noon = DateTime.UtcNow;
            string page = new Uri(
                await _host.ScalarAsync<string>("select url from links where id = $1", Guid.Parse(link.Text("id")))
            ).PathAndQuery;
            await SendAsync(Line("127.0.0.1", 1, page));
        }

        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit where hit_id is not null") == 1);
        Assert.Equal(link.Text("id"), (await _host.ScalarAsync<Guid>("select link_id from visit where hit_id is not null")).ToString());
    }

    /// <summary>What told visitors apart is destroyed a day after the last log of their day.</summary>
    [Fact]
    public async Task Salts_of_past_days_are_destroyed()
    {
        await SendAsync(Line("192.0.2.1", 0, "/visit"));
        Assert.Equal(1, await _host.ScalarAsync<long>("select count(*) from log_salt"));
        var salts = (SaltBook)_host.Services.GetService(typeof(SaltBook))!;
        await salts.RefreshAsync(CancellationToken.None);
        Assert.Equal(1, await _host.ScalarAsync<long>("select count(*) from log_salt"));
        await using (var age = _host.Database.CreateCommand("update log_salt set used_at = used_at - interval '24 hours 1 minute'"))
        {
            await age.ExecuteNonQueryAsync();
        }

        await salts.RefreshAsync(CancellationToken.None);
        Assert.Equal(0, await _host.ScalarAsync<long>("select count(*) from log_salt"));
    }

    /// <summary>Three processes may share a directory: a file that one of them reads is left alone by the others, which read on.</summary>
    [Fact]
    public async Task A_file_that_somebody_else_reads_holds_up_no_other()
    {
        var first = await SendAsync(
            string.Join('\n', Enumerable.Range(0, 60_000).Select(i => Line($"192.0.{i % 40}.7", i / 4, $"/page-{i % 50}"))),
            wait: 0
        );
        await _client.DoAsync(HttpMethod.Delete, $"/api/v1/imports/access-log/{first.Text("id")}");
        await Eventually.Async(() => Task.FromResult(Directory.GetFiles(_host.DataDirectory("logs")).Length == 0));
        string held = Path.Combine(_host.DataDirectory("logs"), Guid.Parse(first.Text("id")).ToString("N"));
        await using (var other = new FileStream(held, FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None))
        {
            await other.WriteAsync(Encoding.UTF8.GetBytes(Line("192.0.2.99", 0, "/held")));
            await other.FlushAsync();
            await using (var again = _host.Database.CreateCommand("update log_readings set state = 'Reading', position = 0"))
            {
                await again.ExecuteNonQueryAsync();
            }

            var next = await SendAsync(Line("192.0.2.77", 1, "/free"));
            Assert.Equal(("read", 1L), (next.Text("state"), Kept(next)));
            Assert.Equal("reading", (await _host.GetJsonAsync($"/api/v1/imports/access-log/{first.Text("id")}")).Text("state"));
        }

        await Eventually.Async(async () =>
            (await _host.GetJsonAsync($"/api/v1/imports/access-log/{first.Text("id")}")).Text("state") == "read"
        );
        Assert.Equal(1, await _host.ScalarAsync<long>("select count(*) from page_event where url like '%/held'"));
    }

    [Fact]
    public async Task A_file_that_can_t_be_read_says_why()
    {
        var noLog = await SendAsync("name,price\nfern,3\n");
        Assert.Equal(("failed", "notCombined", 0L), (noLog.Text("state"), noLog.Text("fault"), Kept(noLog)));
        byte[] packed = Packed(string.Join('\n', Enumerable.Range(0, 5_000).Select(i => Line($"192.0.2.{i % 200}", i, $"/page-{i}"))));
        var cut = await SendAsync(packed.AsSpan(0, packed.Length / 2).ToArray());
        Assert.Equal(("failed", "brokenArchive"), (cut.Text("state"), cut.Text("fault")));

        Assert.Equal("file-missing", await RefusalAsync(null));
        Assert.Equal("file-missing", await RefusalAsync(""));
        Assert.Equal("site-missing", await RefusalAsync("x", site: "nowhere.example"));
        Assert.Equal("site-missing", await RefusalAsync("x", site: ""));
        Assert.Equal("measured-days-refused", await RefusalAsync("x", measuredDays: "some"));
        using var viewer = _host.As("viewer");
        using var form = Form(Encoding.UTF8.GetBytes("x"), BeaconHost.GardenHost, null);
        using var forbidden = await viewer.PostAsync("/api/v1/imports/access-log", form);
        Assert.Equal(HttpStatusCode.Forbidden, forbidden.StatusCode);
        Assert.Empty(Directory.Exists(_host.DataDirectory("logs")) ? Directory.GetFiles(_host.DataDirectory("logs")) : []);
    }

    [Fact]
    public async Task Reading_is_stopped_and_gone_on_with()
    {
        string log = string.Join(
            '\n',
            Enumerable.Range(0, 60_000).Select(i => Line($"192.0.{i % 40}.{i % 250}", i / 4, $"/page-{i % 50}"))
        );
        var begun = await SendAsync(log, wait: 0);
        string path = $"/api/v1/imports/access-log/{begun.Text("id")}";
        var stopped = await _client.DoAsync(HttpMethod.Delete, path);
        Assert.Equal("cancelled", stopped.Text("state"));
        await Eventually.Async(() => Task.FromResult(Directory.GetFiles(_host.DataDirectory("logs")).Length == 0));
        long kept = Kept(await _host.GetJsonAsync(path));
        Assert.True(kept < 60_000);
        Assert.Equal(kept, await _host.ScalarAsync<long>("select count(*) from page_event where from_log"));

        // What was read stays, and reading the file again brings the rest.
        var again = await SendAsync(log, wait: 0);
        await Eventually.Async(async () =>
            (await _host.GetJsonAsync($"/api/v1/imports/access-log/{again.Text("id")}")).Text("state") == "read"
        );
        Assert.Equal(60_000, await _host.ScalarAsync<long>("select count(*) from page_event where from_log"));
    }

    private static long Kept(JsonNode answer) => answer["kept"]!.GetValue<long>();

    private async Task<JsonNode> TotalAsync(long visits)
    {
        JsonNode total = null!;
        await Eventually.Async(async () =>
        {
            bool done = await _host.ScalarAsync<long>("select count(*) from visit_due") == 0;
            total = (await _host.GetJsonAsync($"/api/v1/arrivals?from={Day}&to={Day}&rows=source&measures=visits,pageViews,visitors"))[
                "total"
            ]!;
            return done && total.Whole("visits") == visits;
        });
        return total;
    }

    private Task<JsonNode> SendAsync(string log, bool packed = false, string? then = null, string? measuredDays = null, int wait = 20) =>
        SendAsync(packed ? [.. Packed(log), .. then is null ? [] : Packed(then)] : Encoding.UTF8.GetBytes(log), measuredDays, wait);

    private async Task<JsonNode> SendAsync(byte[] log, string? measuredDays = null, int wait = 20)
    {
        using var form = Form(log, BeaconHost.GardenHost, measuredDays);
        using var answer = await _client.PostAsync($"/api/v1/imports/access-log?wait={wait}", form);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        return JsonNode.Parse(text)!;
    }

    private async Task<string> RefusalAsync(string? log, string site = BeaconHost.GardenHost, string? measuredDays = null)
    {
        using var form = Form(log is null ? null : Encoding.UTF8.GetBytes(log), site, measuredDays);
        using var answer = await _client.PostAsync("/api/v1/imports/access-log", form);
        Assert.False(answer.IsSuccessStatusCode);
        return JsonNode.Parse(await answer.Content.ReadAsStringAsync())!.Text("rule");
    }

    private static MultipartFormDataContent Form(byte[]? log, string site, string? measuredDays)
    {
        var form = new MultipartFormDataContent { { new StringContent(site), "site" } };
        if (log is not null)
        {
            form.Add(new ByteArrayContent(log), "file", "access.log");
        }

        if (measuredDays is not null)
        {
            form.Add(new StringContent(measuredDays), "measuredDays");
        }

        return form;
    }

    private static byte[] Packed(string text)
    {
        using var packed = new MemoryStream();
        using (var gzip = new GZipStream(packed, CompressionLevel.Fastest))
        {
            gzip.Write(Encoding.UTF8.GetBytes(text));
        }

        return packed.ToArray();
    }
}
