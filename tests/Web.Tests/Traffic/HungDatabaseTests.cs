using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Npgsql;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>The database stops answering without closing anything, as a machine does that hangs; and is gone for a moment, twice.</summary>
[Trait("Category", "Crash")]
public sealed class HungDatabaseTests : IAsyncLifetime, IDisposable
{
    private readonly Lines _log = new();
    private OwnCluster _cluster = null!;
    private BeaconHost _host = null!;

    public async Task InitializeAsync()
    {
        _cluster = await OwnCluster.StartAsync();
        _host = await BeaconHost.StartAsync(
            database: _cluster.Connection,
            replace: s => s.AddSingleton<ILoggerProvider>(_log),
            more: "--Logging:LogLevel:Default=Warning"
        );
    }

    public async Task DisposeAsync()
    {
        await _host.DisposeAsync();
        await _cluster.DisposeAsync();
    }

    public void Dispose() => _log.Dispose();

    private async Task<HttpStatusCode> StatusAsync(string path)
    {
        using var client = _host.Anonymous();
        return (await client.GetAsync(path)).StatusCode;
    }

    [Fact]
    public async Task What_is_known_goes_on_and_what_is_not_says_so_within_two_seconds()
    {
        var link = await _host.SaveLinkAsync();
        string slug = "/" + link.Text("shortUrl").Split('/')[^1];
        await Eventually.Async(async () => (await _host.ClickAsync(slug)).StatusCode == HttpStatusCode.Found);
        Assert.Equal(HttpStatusCode.NotFound, (await _host.ClickAsync("/never-made")).StatusCode);

        _cluster.Signal("STOP");
        try
        {
            var hung = Stopwatch.StartNew();
            using var editor = _host.As("editor");
            var save = editor.CallAsync(
                HttpMethod.Post,
                "/api/v1/links",
                new
                {
                    destination = $"http://{BeaconHost.GardenHost}/visit",
                    campaign = "Seed Swap",
                    placement = "Gate poster",
                }
            );
            await Eventually.Async(
                async () => (await _host.ClickAsync("/never-made")).StatusCode == HttpStatusCode.ServiceUnavailable,
                TimeSpan.FromSeconds(15)
            ); // two, and what a busy machine adds; it was over thirty
            hung.Restart();
            Assert.Equal(HttpStatusCode.ServiceUnavailable, await StatusAsync("/readyz"));
            Assert.True(hung.Elapsed < TimeSpan.FromSeconds(8), $"{hung.Elapsed}");
            Assert.Equal(HttpStatusCode.OK, await StatusAsync("/healthz"));
            Assert.Equal(HttpStatusCode.Found, (await _host.ClickAsync(slug)).StatusCode);

            var (status, json) = await save; // after the ten seconds the connection gives the database
            Assert.Equal((HttpStatusCode.ServiceUnavailable, "database-away"), (status, json.Refusal().Rule));
        }
        finally
        {
            _cluster.Signal("CONT");
        }

        await Eventually.Async(async () => await StatusAsync("/readyz") == HttpStatusCode.OK);
        await Eventually.Async(async () => (await _host.ClickAsync("/never-made")).StatusCode == HttpStatusCode.NotFound);
        Assert.NotNull(await _host.SaveLinkAsync());
    }

    [Fact]
    public async Task Two_short_outages_under_load_log_a_few_lines_and_every_save_answers_503_or_is_there()
    {
        long made = await _host.ScalarAsync<long>("select count(*) from links");
        using var done = new CancellationTokenSource();
        var answers = new ConcurrentBag<HttpStatusCode>();
        var saving = Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(async _ =>
                {
                    using var editor = _host.As("editor");
                    while (!done.IsCancellationRequested)
                    {
                        answers.Add(
                            (
                                await editor.CallAsync(
                                    HttpMethod.Post,
                                    "/api/v1/links",
                                    new
                                    {
                                        destination = $"http://{BeaconHost.GardenHost}/visit",
                                        campaign = "Seed Swap",
                                        placement = "Gate poster",
                                    }
                                )
                            ).Status
                        );
                    }
                })
        );
        for (int outage = 0; outage < 2; outage++)
        {
            int before = answers.Count(a => a == HttpStatusCode.Created);
            await Eventually.Async(() => Task.FromResult(answers.Count(a => a == HttpStatusCode.Created) > before + 5));
            int away = answers.Count(a => a == HttpStatusCode.ServiceUnavailable);
            _cluster.Stop();
            await Eventually.Async(() => Task.FromResult(answers.Count(a => a == HttpStatusCode.ServiceUnavailable) > away + 20));
            _cluster.Start();
        }

        int last = answers.Count(a => a == HttpStatusCode.Created);
        await Eventually.Async(() => Task.FromResult(answers.Count(a => a == HttpStatusCode.Created) > last + 5));
        await done.CancelAsync();
        await saving;
        Assert.DoesNotContain(answers, a => a is not (HttpStatusCode.Created or HttpStatusCode.ServiceUnavailable));

        // Every answered one is there; one whose answer was cut off may be there too.
        await using var fresh = NpgsqlDataSource.Create(_cluster.Connection);
        await using var count = fresh.CreateCommand("select count(*) from links");
        long kept = (long)(await count.ExecuteScalarAsync())! - made;
        Assert.InRange(kept, answers.Count(a => a == HttpStatusCode.Created), answers.Count(a => a == HttpStatusCode.Created) + 8);
        Assert.InRange(_log.All.Count, 1, 60);
        Assert.True(_log.All.Sum(l => l.Length) < 20_000, string.Join('\n', _log.All));
    }

    /// <summary>Keeps what is logged, traces and all.</summary>
    private sealed class Lines : ILoggerProvider, ILogger
    {
        public ConcurrentQueue<string> All { get; } = [];

        public ILogger CreateLogger(string categoryName) => this;

        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(LogLevel logLevel) => logLevel >= LogLevel.Warning;

        public void Log<TState>(
            LogLevel logLevel,
            EventId eventId,
            TState state,
            Exception? exception,
            Func<TState, Exception?, string> formatter
        ) => All.Enqueue($"{formatter(state, exception)} {exception}");

        public void Dispose() { }
    }
}
