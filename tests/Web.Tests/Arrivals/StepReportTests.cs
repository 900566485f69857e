using System.Text.Json.Nodes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Ways through the site: how many visits reach each step, and what the others did instead.</summary>
public sealed class StepReportTests(StepReportTests.Walks walks) : IClassFixture<StepReportTests.Walks>
{
    /// <summary>Visits as letters, one after another: pages in lower case, B a basket begun, S a spot clicked, T a ticket.</summary>
    private static readonly string[] Visits =
    [
        "vsBT", // all the way
        "vsBoT", // with something between
        "sBT", // never on the first page
        "vsv", // back to where it began
        "vs",
        "v",
        "Tvs", // bought before
        "vSs",
        "oo",
        "vsso",
    ];

    /// <summary>What somebody did, once for all tests.</summary>
    public sealed class Walks : IAsyncLifetime
    {
        public BeaconHost Host { get; private set; } = null!;

        public async Task InitializeAsync()
        {
            Host = await BeaconHost.StartAsync(visits: 0);
            var workspace = await Host.ScalarAsync<Guid>("select id from workspaces");
            var site = await Host.ScalarAsync<Guid>($"select site_id from site_hosts where host = '{BeaconHost.GardenHost}'");
            var raw = new RawEvents();
            var began = DateTimeOffset.UtcNow.AddDays(-2);
            for (int v = 0; v < Visits.Length; v++)
            {
                for (int i = 0; i < Visits[v].Length; i++)
                {
                    char what = Visits[v][i];
                    raw.PageEvents.Add(
                        new RawPageEvent
                        {
                            Id = Guid.NewGuid(),
                            WorkspaceId = workspace,
                            SiteId = site,
                            At = began.AddSeconds(10 * i),
                            Kind = what switch
                            {
                                'B' => PageEventKind.Event,
                                'S' => PageEventKind.SpotClicked,
                                'T' => PageEventKind.Conversion,
                                _ => PageEventKind.View,
                            },
                            Name = what switch
                            {
                                'B' => "basket begun",
                                'S' => "banner",
                                'T' => "ticket",
                                _ => "",
                            },
                            Url =
                                $"http://{BeaconHost.GardenHost}/{(what is 's' ? "shop" : what is 'o' ? "other" : "visit")}{(i == 0 && v < 2 ? "?utm_source=wendfar" : "")}",
                            Visitor = new Guid(v + 1, 0, 0, new byte[8]),
                            UserAgent = "Mozilla/5.0 (X11; Linux x86_64) Fernleaf/12.1",
                        }
                    );
                }
            }

            await new SpoolDrain(Host.Database).WriteStraightAsync(raw, CancellationToken.None);
            await Eventually.Async(async () =>
            {
                await new VisitAggregator(Host.Database).WorkOutAsync(CancellationToken.None);
                return await Host.ScalarAsync<long>("select count(*) from visit_due") == 0;
            });
        }

        public async Task DisposeAsync() => await Host.DisposeAsync();
    }

    /// <summary>Counted a second way: with the letters alone.</summary>
    [Theory]
    [InlineData("vsBT", "page:/visit", "page:/shop", "event:basket begun", "conversion:ticket")]
    [InlineData("vT", "page:/visit", "conversion:")]
    [InlineData("ss", "page:/shop", "page:/shop")]
    [InlineData("vSs", "page:/visit", "clicked:banner", "page:/shop")]
    [InlineData("Ts", "conversion:ticket", "pagePattern:/s*p")]
    [InlineData("so", "pageBegins:/sh", "page:/other")]
    [InlineData("oT", "page:/other", "conversion:ticket")]
    public async Task Each_step_counts_who_reached_it_in_order(string letters, params string[] steps)
    {
        var report = await ReportAsync(string.Join('&', steps.Select(s => $"step={Uri.EscapeDataString(s)}")));
        var reached = report["steps"]!.AsArray().Select(s => s!.Whole("visits")).ToList();
        Assert.Equal(Enumerable.Range(1, letters.Length).Select(n => Visits.Count(v => Holds(v, letters[..n]))), reached);
        Assert.Equal(Visits.Length, report.Whole("visits"));
        Assert.Equal(steps, report["steps"]!.AsArray().Select(s => s.Text("step")));
        for (int i = 0; i < reached.Count; i++)
        {
            int before = i == 0 ? Visits.Length : reached[i - 1];
            var rate = report["steps"]![i]!["rateOfBefore"];
            Assert.Equal(before == 0 ? null : (decimal)reached[i] / before, rate?.GetValue<decimal>());
        }
    }

    [Fact]
    public async Task What_the_others_did_instead_is_told()
    {
        var report = await ReportAsync("step=page:/visit&step=page:/shop&step=event:basket%20begun");
        Assert.Equal([" 1"], Instead(report, 0)); // saw nothing more
        Assert.Equal([" 3", "shop 1", "visit 1"], Instead(report, 1)); // by the letters: vs, Tvs and vSs end there
        Assert.Empty(Instead(report, 2));
        report = await ReportAsync("step=page:/visit&step=page:/shop&where=source:is:wendfar");
        Assert.Equal((2, 2), (report.Whole("visits"), report["steps"]![1].Whole("visits")));
    }

    [Theory]
    [InlineData("", "steps-count")]
    [InlineData("step=page:/a", "steps-count")]
    [InlineData("step=page:/a&step=magic:b", "step-refused")]
    [InlineData("step=page:/a&step=page:/b?c", "step-refused")]
    [InlineData("step=page:/a&step=event:", "step-refused")]
    public async Task What_is_no_way_is_refused_with_the_way_out(string asked, string rule)
    {
        using var client = walks.Host.As("viewer");
        Assert.Equal(rule, (await client.CallAsync(HttpMethod.Get, $"/api/v1/arrivals/steps?{asked}")).Json.Refusal().Rule);
    }

    private Task<JsonNode> ReportAsync(string asked) => walks.Host.GetJsonAsync($"/api/v1/arrivals/steps?{asked}");

    private static IEnumerable<string> Instead(JsonNode report, int step) =>
        report["steps"]![step]!["instead"]!.AsArray().Select(i => $"{i!["page"]?.GetValue<string>().Split('/')[^1]} {i["visits"]}");

    /// <summary>Whether letters occur in order.</summary>
    private static bool Holds(string visit, string letters)
    {
        int at = 0;
        foreach (char what in visit)
        {
            at += at < letters.Length && letters[at] == what ? 1 : 0;
        }

        return at == letters.Length;
    }
}
