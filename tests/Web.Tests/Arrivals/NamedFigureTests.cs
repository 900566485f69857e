using System.Net;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>What pages name is counted name by name: conversions of one kind, events of one name.</summary>
public sealed class NamedFigureTests : IAsyncLifetime
{
    private BeaconHost _host = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync();
        for (int i = 0; i < 3; i++)
        {
            string agent = $"Mozilla/5.0 (Phone; Mobile) Fernleaf/{i}.1";
            await SendAsync(new { k = "demo-garden", u = PageOf(i) }, agent);
            await SendAsync(
                new
                {
                    k = "demo-garden",
                    u = PageOf(i),
                    e = "event",
                    n = "map, opened",
                },
                agent
            );
            await SendAsync(
                new
                {
                    k = "demo-garden",
                    u = PageOf(i),
                    e = "conversion",
                    n = i == 0 ? "adoption" : "ticket",
                },
                agent
            );
        }

        await Eventually.Async(async () =>
            (await _host.GetJsonAsync("/api/v1/arrivals?rows=source&measures=visits"))["total"]!.Whole("conversions") == 3
        );
    }

    public async Task DisposeAsync() => await _host.DisposeAsync();

    private static string PageOf(int visitor) => $"http://{BeaconHost.GardenHost}/visit?utm_source=src{visitor % 2}&utm_medium=email";

    private async Task SendAsync(object report, string agent)
    {
        using var answer = await _host.MeasureAsync(report, userAgent: agent);
        Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
    }

    [Fact]
    public async Task Every_row_says_how_often_each_was()
    {
        const string Asked = "rows=source&measures=conversions:ticket,events:map%252C%20opened,conversions:never&sort=-conversions:ticket";
        var report = await _host.GetJsonAsync($"/api/v1/arrivals?{Asked}");
        Assert.Equal(
            ["src0 1 2 0", "src1 1 1 0"],
            report["rows"]!
                .AsArray()
                .Select(r => $"{r!["keys"]![0]} {string.Join(' ', r["figures"]!["named"]!.AsObject().Select(n => n.Value))}")
        );
        Assert.Equal(
            ["events:map%2C opened 3", "conversions:ticket 2", "conversions:adoption 1"],
            report["named"]!.AsArray().Select(n => $"{n!["measure"]} {n["count"]}")
        );
        var narrowed = await _host.GetJsonAsync("/api/v1/arrivals?rows=&where=source:is:src1&measures=visits");
        Assert.Equal(["conversions:ticket", "events:map%2C opened"], narrowed["named"]!.AsArray().Select(n => n!.Text("measure")).Order());

        using var viewer = _host.As("viewer");
        string[] lines = (await viewer.GetStringAsync($"/api/v1/arrivals.csv?{Asked}")).TrimStart('\uFEFF').Split("\r\n");
        Assert.Equal("source,ticket,\"map, opened\",never,Currency", lines[0]);
        Assert.Equal("Everything,2,3,0,EUR", lines[1]);
        Assert.Equal("%PDF", (await viewer.GetStringAsync($"/api/v1/arrivals.pdf?rows=source&stations=visits,conversions:ticket"))[..4]);
    }

    [Fact]
    public async Task Whoever_is_shown_results_is_told_no_other_names()
    {
        using var owner = _host.As("owner");
        var page = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/results-pages",
            new { name = "Tickets", address = "rows=source&stations=visits,conversions:ticket" }
        );
        string path = $"/api/v1/results/{page.Text("url").Split('/')[^1]}/arrivals?measures=conversions:ticket";
        var shown = await _host.GetJsonAsync(path);
        Assert.Equal((2, 0), ((int)shown["total"]!["named"]!.Whole("conversions:ticket"), shown["named"]!.AsArray().Count));
    }

    [Fact]
    public async Task More_than_twenty_are_refused()
    {
        using var viewer = _host.As("viewer");
        string many = string.Join(',', Enumerable.Range(0, 21).Select(i => $"events:e{i}"));
        var (status, refusal) = await viewer.CallAsync(HttpMethod.Get, $"/api/v1/arrivals?measures={many}");
        Assert.Equal((HttpStatusCode.BadRequest, "measures-refused"), (status, refusal!.Text("rule")));
    }

    /// <summary>A page that makes names up fills no memory: beyond the limit they stand together.</summary>
    [Fact]
    public async Task Names_beyond_a_limit_stand_together()
    {
        await using (
            var full = _host.Database.CreateCommand(
                "insert into source_value_count (workspace_id, key, day, new_values) select id, ':event', current_date - 1, 1000 from workspaces"
            )
        )
        {
            await full.ExecuteNonQueryAsync();
        }

        await SendAsync(
            new
            {
                k = "demo-garden",
                u = PageOf(7),
                e = "event",
                n = "made up",
            },
            "Mozilla/5.0 (Desk; x64) Fernleaf/12.1"
        );
        await SendAsync(
            new
            {
                k = "demo-garden",
                u = PageOf(7),
                e = "event",
                n = "map, opened",
            },
            "Mozilla/5.0 (Desk; x64) Fernleaf/12.1"
        );
        await Eventually.Async(async () =>
            (await _host.GetJsonAsync("/api/v1/arrivals?rows=&measures=visits"))["named"]!
                .AsArray()
                .Select(n => $"{n!["measure"]} {n["count"]}")
                .ToHashSet()
                .IsSupersetOf(["events:map%2C opened 4", "events:(many values) 1"])
        );
    }
}
