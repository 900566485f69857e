using System.Net;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>Rows of a report add up, and know their links.</summary>
public sealed class ReportSumTests : WorkingOutBase
{
    /// <summary>The links of a row are those its visits came by: <c>b1</c> never finds <c>b10</c>, and a channel finds what it claims.</summary>
    [Fact]
    public async Task A_row_knows_the_links_its_visits_came_by()
    {
        using var owner = Host.As("owner");
        var now = DateTime.UtcNow;
        string Moment(int minutes) =>
            now.AddMinutes(minutes).ToString("yyyy-MM-ddTHH:mm:ss", System.Globalization.CultureInfo.InvariantCulture);
        var links = new[]
        {
            await Host.SaveLinkAsync($"http://{BeaconHost.GardenHost}/visit", "b1", "The Trellis – header button"),
            await Host.SaveLinkAsync($"http://{BeaconHost.GardenHost}/visit", "b10", "The Trellis – header button"),
        };
        for (int i = 0; i < 3; i++)
        {
            await KeepAsync(View(Moment(i + 1), "/", Guid.NewGuid()) with { Url = links[i == 0 ? 0 : 1]["link"].Text("url") });
        }

        await KeepAsync(View(Moment(5), "/visit?utm_source=elsewhere&utm_medium=email&utm_content=b1", Guid.NewGuid()));
        Assert.Equal([(links[0].Text("id"), 1)], await BehindAsync("content:is:b1"));
        Assert.Equal([(links[1].Text("id"), 2)], await BehindAsync("content:is:b10"));
        Assert.Equal([(links[1].Text("id"), 2), (links[0].Text("id"), 1)], await BehindAsync("channel:is:Newsletter and mail"));
        Assert.Equal(
            [(links[1].Text("id"), 2), (links[0].Text("id"), 1)],
            await BehindAsync($"landingPage:is:{BeaconHost.GardenHost}/visit")
        );
        Assert.Empty(await BehindAsync("source:is:elsewhere"));
        Assert.Empty(await BehindAsync("device:is:Tablet"));

        async Task<List<(string, int)>> BehindAsync(string where) =>
            [
                .. (
                    await owner.DoAsync(
                        HttpMethod.Get,
                        $"/api/v1/arrivals/links?from={now:yyyy-MM-dd}&to={now.AddDays(1):yyyy-MM-dd}&where={Uri.EscapeDataString(where)}"
                    )
                )
                    .AsArray()
                    .Select(l => (l!.Text("id"), l!.Whole("visits"))),
            ];
    }

    [Fact]
    public async Task Totals_equal_the_sum_of_their_rows_and_another_currency_is_apart()
    {
        for (int i = 0; i < 12; i++)
        {
            var visitor = Guid.NewGuid();
            var view = View($"2026-06-{i + 1:00}T10:00", $"/?utm_source=s{i % 3}&utm_medium=email&utm_campaign=c{i % 2}", visitor);
            await KeepAsync(
                view,
                view with
                {
                    Id = Guid.CreateVersion7(),
                    At = view.At.AddMinutes(1),
                    Kind = PageEventKind.Conversion,
                    Name = "ticket",
                    OrderId = $"o{i}",
                    Value = 10m + i,
                    Currency = i == 5 ? "GBP" : "EUR",
                }
            );
        }

        var report = await Host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-30&rows=campaign,source,medium");
        var rows = report["rows"]!.AsArray();
        Assert.Equal(6, rows.Count);
        Assert.Equal(12, report["total"]!["visits"]!.GetValue<int>());
        Assert.Equal(12, rows.Sum(r => r!["figures"]!["visits"]!.GetValue<int>()));
        Assert.Equal("171.00", report["total"]!["revenue"]!["amount"]!.GetValue<string>());
        Assert.Equal(
            171m,
            rows.Sum(r =>
                decimal.Parse(r!["figures"]!["revenue"]!["amount"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture)
            )
        );
        Assert.Equal(
            ("15.00", "GBP"),
            (report["revenueElsewhere"]![0]!["amount"]!.GetValue<string>(), report["revenueElsewhere"]![0]!["currency"]!.GetValue<string>())
        );

        var narrowed = await Host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-30&rows=source&where=campaign:is:c1");
        Assert.Equal(6, narrowed["total"]!["visits"]!.GetValue<int>());
        Assert.Equal("c1", rows.Select(r => r!["keys"]![0]!.GetValue<string>()).Distinct().Order().Last());
    }

    [Fact]
    public async Task Whole_months_and_single_days_add_up_to_the_same_as_days_alone()
    {
        await Host.DisposeAsync();
        Host = await BeaconHost.StartAsync(visits: 1_500);
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        foreach (
            var (from, to) in new[]
            {
                (today.AddDays(-120), today),
                (today.AddDays(-12), today.AddDays(-3)),
                (today.AddDays(-400), today),
                (new DateOnly(today.Year, today.Month, 1).AddMonths(-2), new DateOnly(today.Year, today.Month, 1).AddDays(-1)),
            }
        )
        {
            var report = await Host.GetJsonAsync($"/api/v1/arrivals?from={from:yyyy-MM-dd}&to={to:yyyy-MM-dd}&rows=campaign");
            await using var command = Host.Database.CreateCommand(
                """
                select count(*), coalesce(sum(page_views), 0)::bigint, coalesce(sum(conversions), 0)::bigint,
                    (select coalesce(sum(value), 0) from conversion where day between $1 and $2 and currency = 'EUR')
                from visit where day between $1 and $2
                """
            );
            command.Parameters.Add(new() { Value = from });
            command.Parameters.Add(new() { Value = to });
            await using var reader = await command.ExecuteReaderAsync();
            await reader.ReadAsync();
            var total = report["total"]!;
            Assert.Equal(
                (reader.GetInt64(0), reader.GetInt64(1), reader.GetInt64(2), reader.GetDecimal(3)),
                (
                    total["visits"]!.GetValue<long>(),
                    total["pageViews"]!.GetValue<long>(),
                    total["conversions"]!.GetValue<long>(),
                    decimal.Parse(total["revenue"]!["amount"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture)
                )
            );
            Assert.Equal(total["visits"]!.GetValue<long>(), report["series"]!.AsArray().Sum(d => d!["visits"]!.GetValue<long>()));
            Assert.Equal(to.DayNumber - from.DayNumber > 186 ? "month" : "day", report["per"]!.GetValue<string>());
        }
    }

    [Theory]
    [InlineData("rows=colour")]
    [InlineData("rows=campaign,source,medium,device,country,hour")]
    [InlineData("rows=attribute")]
    [InlineData("rows=source.x")]
    [InlineData("where=source:elsewhere")]
    [InlineData("where=source:like:x")]
    [InlineData("sort=price")]
    [InlineData("page=0")]
    [InlineData("size=5001")]
    [InlineData("compare=lately")]
    [InlineData("compare=2026-02-01,2026-01-01")]
    [InlineData("rows=1")]
    [InlineData("from=2026-06-02&to=2026-06-01")]
    [InlineData("from=yesterday")]
    [InlineData("where=colour:green")]
    public async Task Reports_that_make_no_sense_are_refused(string query)
    {
        using var client = Host.As("viewer");
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, (await client.GetAsync($"/api/v1/arrivals?{query}")).StatusCode);
    }
}
