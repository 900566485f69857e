using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Npgsql;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Redirects;

/// <summary>A link that ends after so many uses, asked for through three processes on one database, one of them killed on the way.</summary>
[Trait("Category", "Crash")]
public sealed class UseLimitTests : IAsyncLifetime
{
    private const int Uses = 40;
    private const int Clicks = 240;

    private readonly List<string> _folders = [];
    private readonly List<BeaconProcess> _processes = [];
    private OwnCluster _cluster = null!;
    private string _shortHost = "";

    public async Task InitializeAsync()
    {
        _cluster = await OwnCluster.StartAsync();
        int first = DatabaseCluster.FreePort();
        _shortHost = $"mmr.localhost:{first}";
        for (int i = 0; i < 3; i++)
        {
            _folders.Add(Directory.CreateTempSubdirectory("beacon-uses-").FullName);
            _processes.Add(
                await BeaconProcess.StartAsync(
                    _cluster.Connection + ";Application Name=use-limit",
                    _folders[i],
                    i == 0 ? first : DatabaseCluster.FreePort(),
                    more: $"--Beacon:DemoShortHost={_shortHost}"
                )
            );
        }
    }

    public async Task DisposeAsync()
    {
        foreach (var process in _processes)
        {
            await process.DisposeAsync();
        }

        _folders.ForEach(f => Directory.Delete(f, recursive: true));
        await _cluster.DisposeAsync();
    }

    [Fact]
    public async Task Exactly_as_many_get_through_as_are_left_whichever_process_is_asked()
    {
        string slug = await MakeAsync();
        foreach (var process in _processes)
        {
            await Eventually.Async(async () => await StatusAsync(process, slug, "curl/8.5.0") == HttpStatusCode.Found); // a known crawler uses nothing up
        }

        int done = 0;
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, Clicks)
                .Select(async i =>
                {
                    if (Interlocked.Increment(ref done) == 60)
                    {
                        await _processes[2].KillAsync();
                    }

                    return await StatusAsync(_processes[i % 3], slug, $"Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1 {i}");
                })
        );
        int through = answers.Count(a => a == HttpStatusCode.Found);
        await using var database = NpgsqlDataSource.Create(_cluster.Connection);
        await using var count = database.CreateCommand("select count(*) from hit where user_agent like '%Fernleaf/12.1 %'");
        long kept = (long)(await count.ExecuteScalarAsync())!;
        await using var left = database.CreateCommand("select uses_left from links where most_uses is not null");

        // Never one more; one killed between being counted and being answered may be missing among the answers, but not among the hits.
        Assert.Equal((Uses, 0), ((int)kept, (int)(await left.ExecuteScalarAsync())!));
        Assert.InRange(through, Uses - Clicks / 3, Uses);
        foreach (var process in _processes.Take(2))
        {
            Assert.Equal(HttpStatusCode.Gone, await StatusAsync(process, slug, "Mozilla/5.0 (Tablet) Fernleaf/9"));
        }
    }

    [Fact]
    public async Task Without_the_database_nobody_guesses_whether_a_use_is_left()
    {
        string slug = await MakeAsync();
        await Eventually.Async(async () => await StatusAsync(_processes[0], slug, "curl/8.5.0") == HttpStatusCode.Found);
        await using (
            var database = NpgsqlDataSource.Create(
                new NpgsqlConnectionStringBuilder(_cluster.Connection) { Database = "postgres", Pooling = false }.ConnectionString
            )
        )
        {
            string name = new NpgsqlConnectionStringBuilder(_cluster.Connection).Database!;
            await ExecuteAsync(database, $"alter database \"{name}\" with allow_connections false");
            await ExecuteAsync(database, $"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}'");
            Assert.Equal(
                HttpStatusCode.ServiceUnavailable,
                await StatusAsync(_processes[0], slug, "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1")
            );
            await ExecuteAsync(database, $"alter database \"{name}\" with allow_connections true");
        }

        await Eventually.Async(async () =>
            await StatusAsync(_processes[0], slug, "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1") == HttpStatusCode.Found
        );
    }

    /// <summary>Three processes share a server of 100 connections (PostgreSQL's own default), and 200 people ask each at one moment.</summary>
    [Fact]
    public async Task A_crowd_on_one_limited_link_waits_a_moment_and_nobody_is_sent_away()
    {
        string slug = await MakeAsync();
        foreach (var process in _processes)
        {
            await Eventually.Async(async () => await StatusAsync(process, slug, "curl/8.5.0") == HttpStatusCode.Found);
        }

        var answers = await Task.WhenAll(
            Enumerable.Range(0, 600).Select(i => StatusAsync(_processes[i % 3], slug, $"Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1 {i}"))
        );
        Assert.Equal((Uses, 600 - Uses), (answers.Count(a => a == HttpStatusCode.Found), answers.Count(a => a == HttpStatusCode.Gone)));
        await using var database = NpgsqlDataSource.Create(_cluster.Connection);
        await using var open = database.CreateCommand("select count(*) from pg_stat_activity where application_name = 'use-limit'");
        Assert.InRange((long)(await open.ExecuteScalarAsync())!, 3, 75);
    }

    private static async Task ExecuteAsync(NpgsqlDataSource database, string sql)
    {
        await using var command = database.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    private async Task<string> MakeAsync()
    {
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{_processes[0].Port}") };
        client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-editor");
        using var made = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/seed-swap",
                campaign = "Seed Swap",
                placement = "Gate poster",
                ending = new { uses = Uses },
            }
        );
        return "/" + JsonNode.Parse(await made.Content.ReadAsStringAsync())!["shortUrl"]!.GetValue<string>().Split('/')[^1];
    }

    private async Task<HttpStatusCode> StatusAsync(BeaconProcess process, string slug, string userAgent)
    {
        using var client = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{process.Port}"),
        };
        using var request = new HttpRequestMessage(HttpMethod.Get, slug);
        request.Headers.Host = _shortHost;
        request.Headers.TryAddWithoutValidation("User-Agent", userAgent);
        try
        {
            using var answer = await client.SendAsync(request);
            return answer.StatusCode;
        }
        catch (HttpRequestException)
        {
            return 0; // killed
        }
    }
}
