using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Conversions;

/// <summary>A conversion defined by a page or an event: tried, counted from then on, and found in the past.</summary>
public sealed class ConversionKindTests : IAsyncLifetime
{
    private const string Path = "/api/v1/conversion-kinds";

    private BeaconHost _host = null!;
    private HttpClient _owner = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 0);
        _owner = _host.As("owner");
    }

    public async Task DisposeAsync()
    {
        _owner.Dispose();
        await _host.DisposeAsync();
    }

    [Fact]
    public async Task A_page_reached_counts_in_the_past_and_from_then_on()
    {
        // Two people reach it, one of them twice; a third sees another page.
        await ViewAsync("/welcome", "A");
        await ViewAsync("/welcome?step=2", "A");
        await ViewAsync("/welcome/", "B");
        await ViewAsync("/shop", "C");
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit") == 3);

        var wanted = new
        {
            name = "newsletter",
            test = "page",
            text = $"http://{BeaconHost.GardenHost}/welcome",
            value = 2.5m,
        };
        var trial = await _owner.DoAsync(HttpMethod.Post, $"{Path}/count", wanted);
        Assert.Equal((3, 2), (trial.Whole("times"), trial.Whole("visits")));
        Assert.Equal(2, trial.Whole("pageCount")); // with and without a slash at its end
        Assert.Equal(0, await FiguresAsync());

        var made = await _owner.DoAsync(HttpMethod.Post, Path, wanted);
        Assert.Equal($"{BeaconHost.GardenHost}/welcome", made.Text("text"));
        await Eventually.Async(async () => await FiguresAsync() == 2);
        await ViewAsync("/welcome", "D");
        await Eventually.Async(async () => await FiguresAsync() == 3);
        var total = (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!;
        Assert.Equal("7.50", total["revenue"].Text("amount"));
        Assert.Equal(3, total.Whole("convertingVisits"));

        // Every time, then another page, then none: what was counted before goes with it.
        string one = $"{Path}/{made.Text("id")}";
        await _owner.DoAsync(
            HttpMethod.Put,
            one,
            new
            {
                name = "newsletter",
                test = "page",
                text = "/welcome",
                countsEach = true,
            }
        );
        await Eventually.Async(async () => await FiguresAsync() == 4);
        Assert.Equal("0.00", (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!["revenue"].Text("amount"));
        await _owner.DoAsync(
            HttpMethod.Put,
            one,
            new
            {
                name = "newsletter",
                test = "pagePattern",
                text = "/s*p",
            }
        );
        await Eventually.Async(async () => await FiguresAsync() == 1);
        var listed = await _host.GetJsonAsync(Path);
        Assert.Equal(1, listed["kinds"]![0].Whole("conversions"));
        await _owner.DoAsync(HttpMethod.Delete, one);
        await Eventually.Async(async () => await FiguresAsync() == 0);
        await Eventually.Async(async () => (await _host.GetJsonAsync(Path)).Whole("waiting") == 0);
    }

    [Fact]
    public async Task An_event_named_counts_with_what_it_brings()
    {
        await EventAsync("film-played", "A", 4);
        await EventAsync("film-played", "A", 5);
        await EventAsync("film-stopped", "A", 6);
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select coalesce(sum(events), 0) from visit") == 3);
        var wanted = new
        {
            name = "film",
            test = "event",
            text = "film-played",
            takesValue = true,
            countsEach = true,
        };
        var trial = await _owner.DoAsync(HttpMethod.Post, $"{Path}/count", wanted);
        Assert.Equal((2, (JsonNode?)null), (trial.Whole("times"), trial["visits"]));
        await _owner.DoAsync(HttpMethod.Post, Path, wanted);
        await Eventually.Async(async () => await FiguresAsync() == 2);
        Assert.Equal("9.00", (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!["revenue"].Text("amount"));
    }

    [Fact]
    public async Task What_can_t_be_defined_says_why()
    {
        using (
            await _host.MeasureAsync(
                new
                {
                    k = DemoData.MeasuringKey,
                    u = $"http://{BeaconHost.GardenHost}/thanks",
                    e = "conversion",
                    n = "ticket",
                }
            )
        ) { }

        await Eventually.Async(async () => await FiguresAsync() == 1);
        Assert.Equal("ticket", (await _host.GetJsonAsync(Path))["reported"]![0].Text("name"));
        await _owner.DoAsync(HttpMethod.Post, Path, new { name = "taken", text = "/a" });
        foreach (
            var (wrong, rule) in new (object, string)[]
            {
                (new { text = "/a" }, "kind-name"),
                (new { name = " ", text = "/a" }, "kind-name"),
                (new { name = new string('x', 101), text = "/a" }, "kind-name"),
                (new { name = "a" }, "kind-page"),
                (new { name = "a", text = "/a?b=1" }, "kind-page"),
                (
                    new
                    {
                        name = "a",
                        text = "/a",
                        test = "pagePattern",
                    },
                    "kind-page"
                ),
                (
                    new
                    {
                        name = "a",
                        text = "",
                        test = "event",
                    },
                    "kind-event"
                ),
                (
                    new
                    {
                        name = "a",
                        text = "/a",
                        value = -1,
                    },
                    "kind-value"
                ),
                (
                    new
                    {
                        name = "a",
                        text = "/a",
                        value = 1e15,
                    },
                    "kind-value"
                ),
                (
                    new
                    {
                        name = "a",
                        text = "/a",
                        takesValue = true,
                    },
                    "kind-value"
                ),
                (new { name = "taken", text = "/b" }, "kind-taken"),
                (new { name = "ticket", text = "/thanks" }, "kind-reported"),
            }
        )
        {
            Assert.Equal(rule, (await _owner.CallAsync(HttpMethod.Post, Path, wrong)).Json.Refusal().Rule);
        }

        using var editor = _host.As("editor");
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.CallAsync(HttpMethod.Post, Path, new { name = "b", text = "/b" })).Status);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await _owner.CallAsync(HttpMethod.Put, $"{Path}/{Guid.NewGuid()}", new { name = "b", text = "/b" })).Status
        );
    }

    private async Task<int> FiguresAsync() => (await _host.GetJsonAsync("/api/v1/arrivals"))["total"].Whole("conversions");

    private async Task ViewAsync(string path, string person)
    {
        using var answer = await _host.MeasureAsync(
            new { k = DemoData.MeasuringKey, u = $"http://{BeaconHost.GardenHost}{path}" },
            userAgent: $"Mozilla/5.0 (Phone; Mobile) Fernleaf/{person}"
        );
        Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
    }

    private async Task EventAsync(string name, string person, int value)
    {
        using var answer = await _host.MeasureAsync(
            new
            {
                k = DemoData.MeasuringKey,
                u = $"http://{BeaconHost.GardenHost}/visit",
                e = "event",
                n = name,
                v = value,
                c = "EUR",
            },
            userAgent: $"Mozilla/5.0 (Phone; Mobile) Fernleaf/{person}"
        );
        Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
    }
}
