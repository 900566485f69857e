using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Npgsql;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>
/// Kills the process and PostgreSQL for real, under load, and compares the answers given with the raw rows: every hit
/// answered with a redirect is there exactly once.
/// </summary>
[Trait("Category", "Crash")]
public sealed class CrashTests : IAsyncLifetime
{
    private const int Clients = 8;

    private readonly string _data = Directory.CreateTempSubdirectory("beacon-crash-").FullName;
    private readonly ConcurrentBag<string> _answered = [];
    private readonly int _port = DatabaseCluster.FreePort();
    private OwnCluster _cluster = null!;
    private string _slug = "";
    private int _made;

    public async Task InitializeAsync() => _cluster = await OwnCluster.StartAsync();

    public async Task DisposeAsync()
    {
        await _cluster.DisposeAsync();
        Directory.Delete(_data, recursive: true);
    }

    [Fact]
    public async Task No_hit_is_lost_or_doubled_when_the_process_is_killed()
    {
        var app = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port);
        await MakeLinkAsync();
        for (int round = 0; round < 3; round++)
        {
            using var load = new CancellationTokenSource();
            var clicking = ClickAsync(load.Token);
            int before = _answered.Count;
            await Eventually.Async(() => Task.FromResult(_answered.Count > before + 1_500));
            await app.KillAsync();
            await load.CancelAsync();
            await clicking;
            await app.DisposeAsync();
            app = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port);
        }

        await CompareAsync();
        await app.DisposeAsync();
    }

    [Fact]
    public async Task Redirects_go_on_and_no_hit_is_lost_or_doubled_when_postgresql_is_killed()
    {
        await using var app = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port);
        await MakeLinkAsync();
        using var load = new CancellationTokenSource();
        var clicking = ClickAsync(load.Token);
        await Eventually.Async(() => Task.FromResult(_answered.Count > 1_000));
        for (int round = 0; round < 2; round++)
        {
            _cluster.Stop();
            int before = _answered.Count;
            await Eventually.Async(() => Task.FromResult(_answered.Count > before + 1_500));

            // A slug nobody has heard of is not denied while the database is away.
            await Eventually.Async(async () => await StatusAsync("/never-made") == HttpStatusCode.ServiceUnavailable);
            _cluster.Start();
            before = _answered.Count;
            await Eventually.Async(() => Task.FromResult(_answered.Count > before + 500));
        }

        await load.CancelAsync();
        await clicking;
        await Eventually.Async(async () => await StatusAsync("/never-made") == HttpStatusCode.NotFound);
        await CompareAsync();
    }

    [Fact]
    public async Task A_cold_start_without_the_database_answers_503_and_goes_on_once_it_is_there()
    {
        await using (await BeaconProcess.StartAsync(_cluster.Connection, _data, _port))
        {
            await MakeLinkAsync();
        }

        _cluster.Stop();
        await using var app = await BeaconProcess.StartUnreadyAsync(_cluster.Connection, _data, _port);
        using var client = Client("Bearer demo-viewer");
        Assert.Equal(HttpStatusCode.ServiceUnavailable, await StatusAsync(_slug));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, await StatusAsync("/never-made"));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await client.GetAsync("/readyz")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/healthz")).StatusCode); // whoever asks, with a key as well
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await client.GetAsync("/sign-in")).StatusCode);
        using var call = await client.GetAsync("/api/v1/links");
        Assert.Equal(HttpStatusCode.ServiceUnavailable, call.StatusCode);
        Assert.Equal("5", call.Headers.GetValues("Retry-After").Single()); // RFC 9110, 10.2.3
        Assert.Equal("starting", JsonNode.Parse(await call.Content.ReadAsStringAsync()).Refusal().Rule);

        _cluster.Start();
        await Eventually.Async(async () => await StatusAsync(_slug) == HttpStatusCode.Found);
        await Eventually.Async(async () => await StatusAsync("/never-made") == HttpStatusCode.NotFound);
        Assert.True((await client.GetAsync("/api/v1/links")).IsSuccessStatusCode);

        // Gone again while the application runs: calls say so, and work again by themselves.
        _cluster.Stop();
        var (status, json) = await client.CallAsync(HttpMethod.Get, "/api/v1/links");
        Assert.Equal((HttpStatusCode.ServiceUnavailable, "database-away"), (status, json.Refusal().Rule));
        _cluster.Start();
        await Eventually.Async(async () => (await client.GetAsync("/api/v1/links")).IsSuccessStatusCode);
    }

    [Fact]
    public async Task With_the_spool_full_hits_go_straight_to_the_database_and_with_both_gone_the_loss_is_counted_and_shown()
    {
        await using var app = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port, more: "--Beacon:SpoolSegments=0");
        await MakeLinkAsync();
        await using var database = NpgsqlDataSource.Create(_cluster.Connection);
        await using var count = database.CreateCommand("select count(*) from hit where user_agent <> ''");
        long before = (long)(await count.ExecuteScalarAsync())!;
        Assert.Equal(HttpStatusCode.Found, await StatusAsync(_slug));
        Assert.Equal(before + 1, (long)(await count.ExecuteScalarAsync())!);

        _cluster.Stop();
        Assert.Equal(HttpStatusCode.Found, await StatusAsync(_slug));
        _cluster.Start();
        using var client = Client("Bearer demo-viewer");
        await Eventually.Async(async () =>
        {
            using var answer = await client.GetAsync("/api/v1/arrivals");
            return answer.IsSuccessStatusCode && JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["lost"]!.GetValue<long>() == 1;
        });
    }

    [Fact]
    public async Task On_a_full_disk_hits_go_straight_to_the_database_and_into_the_spool_again_once_there_is_room()
    {
        using var disk = TinyDisk.TryMount(megabytes: 64);
        if (disk is null)
        {
            return; // mounting is not allowed here; the test above has the spool full in another way
        }

        disk.Fill(leaveMegabytes: 4); // less than a segment
        await using var app = await BeaconProcess.StartAsync(_cluster.Connection, disk.Path, _port);
        await MakeLinkAsync();
        await using var database = NpgsqlDataSource.Create(_cluster.Connection);
        await using var moved = database.CreateCommand("select coalesce(sum(moved), 0)::bigint from spool_position");
        using var load = new CancellationTokenSource();
        var clicking = ClickAsync(load.Token);
        await Eventually.Async(() => Task.FromResult(_answered.Count > 1_500));
        Assert.Equal(0L, (long)(await moved.ExecuteScalarAsync())!);

        disk.Free();
        await Eventually.Async(async () => (long)(await moved.ExecuteScalarAsync())! > 0);
        int before = _answered.Count;
        await Eventually.Async(() => Task.FromResult(_answered.Count > before + 2_000));
        await load.CancelAsync();
        await clicking;
        await CompareAsync();
    }

    [Fact]
    public async Task A_spool_left_behind_is_adopted_by_another_process_and_both_know_each_others_links()
    {
        var first = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port);
        await using var second = await BeaconProcess.StartAsync(
            _cluster.Connection,
            _data,
            DatabaseCluster.FreePort(),
            more: $"--Beacon:DemoShortHost=mmr.localhost:{_port}"
        );
        await MakeLinkAsync();
        using var load = new CancellationTokenSource();
        var clicking = ClickAsync(load.Token);
        await Eventually.Async(() => Task.FromResult(_answered.Count > 4_000));
        await first.KillAsync();
        await load.CancelAsync();
        await clicking;

        // The second process moves what the first one left, and answers for its links.
        await CompareAsync();
        using var other = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{second.Port}"),
        };
        using var request = Request(_slug, "");
        Assert.Equal(HttpStatusCode.Found, (await other.SendAsync(request)).StatusCode);
        await first.DisposeAsync();
    }

    private async Task MakeLinkAsync()
    {
        using var client = Client("Bearer demo-editor");
        using var saved = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Lantern Nights",
                placement = "Gate poster",
            }
        );
        _slug = "/" + JsonNode.Parse(await saved.Content.ReadAsStringAsync())!["shortUrl"]!.GetValue<string>().Split('/')[^1];
        await Eventually.Async(async () => await StatusAsync(_slug) == HttpStatusCode.Found);
    }

    /// <summary>Clicks as fast as answers come; each click is told apart by its referrer.</summary>
    private Task ClickAsync(CancellationToken cancel) =>
        Task.WhenAll(
            Enumerable
                .Range(0, Clients)
                .Select(_ =>
                    Task.Run(async () =>
                    {
                        using var client = Client(null);
                        while (!cancel.IsCancellationRequested)
                        {
                            string name = $"https://vale.example/{Interlocked.Increment(ref _made)}";
                            using var request = Request(_slug, name);
                            try
                            {
                                using var answer = await client.SendAsync(request, CancellationToken.None);
                                if (answer.StatusCode == HttpStatusCode.Found)
                                {
                                    _answered.Add(name);
                                }
                            }
                            catch (Exception broken) when (broken is HttpRequestException or System.Net.Sockets.SocketException)
                            {
                                await Task.Delay(5, CancellationToken.None); // killed; whether that hit was kept is nobody's promise
                            }
                        }
                    })
                )
        );

    private async Task CompareAsync()
    {
        await using var database = NpgsqlDataSource.Create(_cluster.Connection);
        var rows = new Dictionary<string, long>();
        await Eventually.Async(async () =>
        {
            rows.Clear();
            await using var command = database.CreateCommand("select referrer, count(*) from hit where referrer <> '' group by 1");
            await using var reader = await command.ExecuteReaderAsync();
            while (await reader.ReadAsync())
            {
                rows[reader.GetString(0)] = reader.GetInt64(1);
            }

            return _answered.All(rows.ContainsKey);
        });
        Assert.All(rows, r => Assert.Equal(1, r.Value));
        Assert.True(_answered.Count > 3_000);

        // A click killed between being kept and being answered may be there as well, but no more than one for each client and kill.
        Assert.InRange(rows.Count - _answered.Count, 0, Clients * 3);
    }

    private async Task<HttpStatusCode> StatusAsync(string path)
    {
        using var client = Client(null);
        using var request = Request(path, "");
        try
        {
            return (await client.SendAsync(request)).StatusCode;
        }
        catch (HttpRequestException)
        {
            return 0;
        }
    }

    private HttpRequestMessage Request(string path, string referrer)
    {
        var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Host = $"mmr.localhost:{_port}";
        request.Headers.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1");
        if (referrer.Length > 0)
        {
            request.Headers.TryAddWithoutValidation("Referer", referrer);
        }

        return request;
    }

    private HttpClient Client(string? authorization)
    {
        var client = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{_port}"),
        };
        if (authorization is not null)
        {
            client.DefaultRequestHeaders.TryAddWithoutValidation("Authorization", authorization);
        }

        return client;
    }
}
