using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Costs;

/// <summary>Rates with a first day, and costs from files; the figures are worked out again in SQL over the clicks (rules, section 7).</summary>
public sealed class CostTests : IAsyncLifetime
{
    private const string Ever = "from=2020-01-01&measures=cost&size=5000";
    private const string Paid = "Wendfar search ads";

    private BeaconHost _host = null!;
    private HttpClient _editor = null!;
    private DateOnly _today;
    private Guid _placement;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 2_000);
        _editor = _host.As("editor");
        _today = DateOnly.Parse(
            (await _host.GetJsonAsync("/api/v1/arrivals?rows=&measures=visits")).Text("to"),
            CultureInfo.InvariantCulture
        );
        _placement = await _host.ScalarAsync<Guid>("select id from placements where name = $1", Paid);
    }

    public async Task DisposeAsync()
    {
        _editor.Dispose();
        await _host.DisposeAsync();
    }

    [Fact]
    public async Task A_later_rate_leaves_earlier_days_alone_and_the_past_is_corrected_knowingly()
    {
        var turn = _today.AddDays(-60);
        decimal before = await CostAsync($"where=placement:is:{Paid}");
        Assert.Equal(Math.Round(await UsesAsync(turn, 0.48m, 0.48m), 2, MidpointRounding.ToEven), before);
        Assert.True(before > 0);

        // A rate from today on changes nothing that was.
        object[] rates = [Rate(null, "click", 0.48m), Rate(_today, "click", 0.70m)];
        await SaveAsync(rates);

        // One of earlier days does, and is stopped until somebody says that it should.
        rates = [Rate(null, "click", 0.48m), Rate(turn, "click", 0.60m)];
        decimal after = Math.Round(await UsesAsync(turn, 0.48m, 0.60m), 2, MidpointRounding.ToEven);
        Assert.NotEqual(before, after);
        var (status, refused) = await _editor.CallAsync(HttpMethod.Put, RatesOf(_placement), new { rates });
        Assert.Equal((HttpStatusCode.Conflict, "past-cost"), (status, refused.Refusal().Rule));
        var dry = await _editor.DoAsync(HttpMethod.Put, RatesOf(_placement) + "?dry=true", new { rates });
        Assert.Equal(turn.ToString("O", CultureInfo.InvariantCulture), dry["correction"].Text("from"));
        Near(after - before, AmountOf(dry["correction"]!["after"]!) - AmountOf(dry["correction"]!["before"]!), 0.011m);
        Near(before, await CostAsync($"where=placement:is:{Paid}"), 0.01m);
        await SaveAsync(rates, correctsPast: true);
        Assert.Equal(after, await CostAsync($"where=placement:is:{Paid}"));
        Assert.Equal(
            1,
            await _host.ScalarAsync<long>(
                "select count(*) from change_log where thing_id = $1 and after::text like '%correction%before%'",
                _placement
            )
        );

        // Who saw other rates overwrites nothing.
        var (clash, theirs) = await _editor.CallAsync(HttpMethod.Put, RatesOf(_placement), new { rates, seen = new object[] { rates[0] } });
        Assert.Equal((HttpStatusCode.Conflict, 2), (clash, theirs!["theirs"]!["rates"]!.AsArray().Count));
    }

    [Fact]
    public async Task A_link_has_a_rate_of_its_own_from_a_day_on()
    {
        var link = await _host.ScalarAsync<Guid>(
            """
            select l.id from links l join short_links s on s.link_id = l.id join click_day c on c.short_link_id = s.id
            where l.placement_id is not null and l.rates is null group by l.id order by sum(c.clicks) desc limit 1
            """
        );
        await using (
            var price = _host.Database.CreateCommand(
                """
                update placements set fixed_cost = null, rates = '[{"from":null,"basis":"Click","amount":0.48}]'
                where id = (select placement_id from links where id = $1)
                """
            )
        )
        {
            price.Parameters.Add(new() { Value = link });
            await price.ExecuteNonQueryAsync();
        }

        string path = $"/api/v1/links/{link}/rates";
        var turn = _today.AddDays(-90);
        await _editor.DoAsync(HttpMethod.Put, path, new { rates = new[] { Rate(turn, "click", 2m) }, correctsPast = true });
        var read = await _host.GetJsonAsync(path);
        Assert.Equal(2m, read["rates"]![0]!["amount"]!.GetValue<decimal>());
        Assert.Equal(0.48m, read["ofPlacement"]![0]!["amount"]!.GetValue<decimal>());
        decimal expected = await _host.ScalarAsync<decimal>(
            """
            select coalesce(sum(c.clicks * case when c.day >= $2 then 2 else 0.48 end), 0) from click_day c join short_links s on s.id = c.short_link_id
            where s.link_id = $1 and c.kind = 'Person'
            """,
            link,
            turn
        );
        Assert.Equal(Math.Round(expected, 2, MidpointRounding.ToEven), await CostAsync($"where=link:is:{link}"));
        Assert.Equal(
            Math.Round(expected, 2, MidpointRounding.ToEven),
            AmountOf((await _host.GetJsonAsync($"/api/v1/links/{link}"))["cost"]!)
        );
    }

    [Fact]
    public async Task A_span_is_paid_in_equal_parts_whatever_is_clicked()
    {
        decimal before = await CostAsync("rows=");
        await SaveAsync(
            [
                Rate(null, "click", 0.48m),
                new
                {
                    from = _today.AddDays(-9),
                    to = _today.AddDays(10),
                    basis = "span",
                    amount = 200m,
                },
            ],
            correctsPast: true
        );
        Assert.Equal(before + 100m, await CostAsync("rows=")); // ten of twenty days are gone
        var days = await RowsAsync($"rows=day&where=placement:is:{Paid}");
        decimal clicks = await UsesAsync(_today, 0.48m, 0.48m);
        Near(100m + clicks, days.Values.Sum(), 0.005m * days.Count);
    }

    [Fact]
    public async Task Imported_costs_replace_rates_by_day_and_are_undone()
    {
        var day = _today.AddDays(-5);
        string on = day.ToString("O", CultureInfo.InvariantCulture);
        decimal before = await CostAsync("rows=");
        decimal replaced = await _host.ScalarAsync<decimal>(
            """
            select coalesce(sum(c.clicks), 0) * 0.48 from click_day c join short_links s on s.id = c.short_link_id join links l on l.id = s.link_id
            where l.placement_id = $1 and c.kind = 'Person' and c.day = $2
            """,
            _placement,
            day
        );
        string file = $"""
            Date;Placement;Spend;Currency
            {on};{Paid};1.234,50;EUR
            {on};{Paid};10,00;EUR
            {on};{Paid};77,00;USD
            ;{Paid};3,00;EUR
            {on};Nobody's board;3,00;EUR
            {on};{Paid};free;EUR
            {on};{Paid};3,00;XXQ
            {_today.AddDays(1):yyyy-MM-dd};{Paid};3,00;EUR
            {on};;3,00;EUR
            """;
        var looked = await ImportAsync(file, dry: true);
        Assert.Equal((9, 3), (looked.Whole("read"), looked.Whole("kept")));
        Assert.Equal(
            ["amountUnreadable", "currencyUnknown", "dayMissing", "dayToCome", "placementUnknown", "targetMissing"],
            looked["skipped"]!.AsObject().Select(s => s.Key).Order(StringComparer.Ordinal)
        );
        Assert.Equal([5, 6, 7, 8, 9, 10], looked["rows"]!.AsArray().Select(r => r!.Whole("number")));
        Assert.Contains("Nobody's board", looked["rows"]![1].Text("says"), StringComparison.Ordinal);
        Assert.Equal(before, await CostAsync("rows="));

        var made = await ImportAsync(file);
        decimal with = before - replaced + 1244.50m;
        Near(with, await CostAsync("rows="), 0.01m);
        var answer = await _host.GetJsonAsync($"/api/v1/arrivals?{Ever}&rows=");
        Assert.Equal(["77.00 USD"], answer["costElsewhere"]!.AsArray().Select(m => $"{m.Text("amount")} {m.Text("currency")}"));

        // By whatever costs are told apart, they add up; what has no value stands by itself.
        foreach (string rows in (string[])["channel", "placement", "source", "country", "device", "day", "campaign", "link", "hour"])
        {
            var found = await RowsAsync($"rows={rows}");
            Near(with, found.Values.Sum(), 0.005m * (found.Count + 1));
            Assert.Equal(rows is "country" or "device" or "hour" or "campaign" or "link", found.ContainsKey("\u001fnot-broken-down"));
        }

        // The same day again replaces it, and so does undoing: what it replaced counts again.
        var again = await ImportAsync($"Date,Placement,Cost\n{on},{Paid},20.00\n");
        Near(before - replaced + 20m, await CostAsync("rows="), 0.01m);
        await _editor.DoAsync(HttpMethod.Post, $"/api/v1/imports/costs/{again.Text("id")}/undo");
        Near(with, await CostAsync("rows="), 0.01m);
        await _editor.DoAsync(HttpMethod.Post, $"/api/v1/imports/costs/{made.Text("id")}/undo");
        Assert.Equal(before, await CostAsync("rows="));
        await _editor.DoAsync(HttpMethod.Post, $"/api/v1/imports/costs/{again.Text("id")}/redo");
        Near(before - replaced + 20m, await CostAsync("rows="), 0.01m);
        var listed = (await _host.GetJsonAsync("/api/v1/imports/costs")).AsArray();
        Assert.Equal(2, listed.Count);
        Assert.Null(listed[0]!["undoneAt"]);
        Assert.Equal("demo-editor", listed[1].Text("undoneBy"), ignoreCase: true);
    }

    [Fact]
    public async Task Links_campaigns_and_values_are_found_and_what_covers_nothing_has_its_row()
    {
        string on = _today.AddDays(-3).ToString("O", CultureInfo.InvariantCulture);
        var link = await _host.SaveLinkAsync();
        var campaign = (await _host.GetJsonAsync("/api/v1/campaigns"))[0]!;
        decimal before = await CostAsync("rows="),
            ofLink = await CostAsync($"where=link:is:{link.Text("id")}"); // its share of what its placement costs the campaign
        var read = await ImportAsync(
            $"""
            Day,Cost,Short link,Campaign,Source,Medium
            {on},1,{link.Text("shortUrl")},,,
            {on},2,{link.Text("id")},,,
            {on},4,,{campaign.Text("name")},,
            {on},8,,,nobody_yet,cpc
            {on},16,http://elsewhere.example/x,,,
            """
        );
        Assert.Equal((5, 4), (read.Whole("read"), read.Whole("kept")));
        Assert.Equal(1, read["skipped"]!.Whole("linkUnknown"));
        Near(before + 15m, await CostAsync("rows="), 4m); // the campaign's links may have been clicked that day
        decimal now = await CostAsync($"where=link:is:{link.Text("id")}");
        Near(ofLink + 3m, now, 1m); // without its share of that day
        var sources = await RowsAsync("rows=source");
        Assert.Equal(8m, sources["nobody_yet"]);
        Assert.Equal(now, AmountOf((await _host.GetJsonAsync($"/api/v1/links/{link.Text("id")}"))["cost"]!));

        // What was paid for a placement that is merged into another is the other's.
        await ImportAsync($"Day,Placement,Cost\n{on},Shop-window display,500\n");
        var gone = await _host.ScalarAsync<Guid>("select id from placements where name = 'Shop-window display'");
        await _editor.DoAsync(HttpMethod.Post, $"/api/v1/placements/{gone}/merge", new { into = _placement });
        Assert.True((await RowsAsync("rows=placement"))[Paid] >= 500m);
        var campaigns = await RowsAsync("rows=campaign");
        Assert.True(campaigns[campaign.Text("value")] >= 4m);
    }

    [Theory]
    [InlineData("Day,Placement\n2026-01-01,Wendfar search ads\n", 0)] // no amount in it
    [InlineData("Placement,Cost\nWendfar search ads,3\n", 0)]
    public async Task A_file_without_a_needed_column_keeps_nothing_and_says_why(string file, int kept)
    {
        var read = await ImportAsync(file);
        Assert.Equal((kept, 1), (read.Whole("kept"), read.Whole("read")));
        Assert.Null(read["id"]);
        Assert.NotEmpty(read["rows"]!.AsArray());
    }

    [Fact]
    public async Task A_table_of_hundred_thousand_rows_is_read()
    {
        var text = new StringBuilder("Day,Placement,Source,Cost\n");
        for (int i = 0; i < 100_000; i++)
        {
            text.Append(CultureInfo.InvariantCulture, $"{_today.AddDays(-1 - (i % 400)):yyyy-MM-dd},,shop_{i / 400},1.50\n");
        }

        decimal before = await CostAsync("rows=");
        var read = await ImportAsync(text.ToString());
        Assert.Equal(100_000, read.Whole("kept"));
        Assert.Equal(before + 150_000m, await CostAsync("rows="));
        Near(before + 150_000m, (await RowsAsync("rows=source")).Values.Sum(), 3m);
    }

    /// <summary>A thousand times shown cost the rate of the placement, by what other systems say; imported costs go before it.</summary>
    [Fact]
    public async Task What_is_shown_is_paid_by_the_thousand_that_other_systems_say()
    {
        await _host.ScalarAsync<long>("with d as (delete from figure_import returning 1) select count(*) from d");
        var turn = _today.AddDays(-30);
        decimal clicks = await UsesAsync(turn, 0.48m, 0m);
        Assert.True(clicks > 0);
        await SaveAsync([Rate(null, "click", 0.48m), Rate(turn, "shown", 4m)], correctsPast: true);
        Near(clicks, await CostAsync($"where=placement:is:{Paid}"), 0.01m); // nobody says yet how often it was shown
        var link = await _host.ScalarAsync<Guid>("select id from links where placement_id = $1 and rates is null limit 1", _placement);

        string Row(int daysAgo, long shown, string what) =>
            string.Create(CultureInfo.InvariantCulture, $"{_today.AddDays(-daysAgo):yyyy-MM-dd},{what},{shown}\n");

        await FiguresAsync("Day,Placement,Shown\n" + Row(40, 10_000, Paid) + Row(20, 2_500, Paid) + Row(19, 250_000, Paid), "Wendfar");
        await FiguresAsync("Day,Placement,Shown\n" + Row(20, 3_000, Paid), "Skeinly"); // counts the same: the larger one is paid
        await FiguresAsync("Day,Link,Shown\n" + Row(19, 50_000, $"{link}"), "Skeinly"); // a part of what the placement was shown
        decimal paid = clicks + 12m + 1_000m;
        Near(paid, await CostAsync($"where=placement:is:{Paid}"), 0.01m);
        Assert.Equal(200m, AmountOf((await _host.GetJsonAsync($"/api/v1/links/{link}"))["cost"]!) - await UsesOfAsync(link, turn));
        decimal total = await CostAsync("rows=");
        foreach (string rows in (string[])["placement", "campaign", "day", "device", "link"])
        {
            var found = await RowsAsync($"rows={rows}");
            Near(total, found.Values.Sum(), 0.005m * (found.Count + 1));
        }

        // The figures themselves are rows' too, and what a thousand of them cost.
        var read = (
            await _host.GetJsonAsync(
                $"/api/v1/arrivals?from={turn:yyyy-MM-dd}&rows=placement&measures=cost,shown,costPerThousandShown,sent&size=5000"
            )
        )["rows"]!
            .AsArray()
            .Single(r => r!["keys"]![0]?.GetValue<string>() == Paid)!["figures"]!;
        Assert.Equal(253_000, read.Whole("shown"));
        Assert.Null(read["sent"]);
        Assert.Equal(4m, AmountOf(read["costPerThousandShown"]!));

        // An imported cost of a day goes before its rate, whole or in part.
        string on = _today.AddDays(-19).ToString("O", CultureInfo.InvariantCulture);
        var part = await ImportAsync($"Day,Link,Cost\n{on},{link},7.00\n");
        Near(paid - 200m + 7m, await CostAsync($"where=placement:is:{Paid}"), 0.01m); // instead of what the link's own figure cost
        await _editor.DoAsync(HttpMethod.Post, $"/api/v1/imports/costs/{part.Text("id")}/undo");
        await ImportAsync($"Day,Placement,Cost\n{on},{Paid},7.00\n");
        Near(clicks + 12m + 7m, await CostAsync($"where=placement:is:{Paid}"), 0.01m);
    }

    /// <summary>What the clicks on a link cost until a day, or its visits where it has no short link.</summary>
    private Task<decimal> UsesOfAsync(Guid link, DateOnly until) =>
        _host.ScalarAsync<decimal>(
            """
            select round(0.48 * coalesce(sum(uses), 0), 2) from (
                select c.clicks as uses from click_day c join short_links s on s.id = c.short_link_id
                where s.link_id = $1 and c.kind = 'Person' and c.day < $2
                union all
                select 1 from visit v where v.link_id = $1 and v.day < $2 and not exists (select from short_links s where s.link_id = $1)
            ) u
            """,
            link,
            until
        );

    private async Task FiguresAsync(string file, string system)
    {
        using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(file)), "file", "figures.csv" } };
        using var answer = await _editor.PostAsync($"/api/v1/imports/figures?system={system}", form);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
    }

    private static object Rate(DateOnly? from, string basis, decimal amount) =>
        new
        {
            from,
            basis,
            amount,
        };

    private static void Near(decimal expected, decimal actual, decimal most) => Assert.InRange(actual, expected - most, expected + most);

    private static string RatesOf(Guid placement) => $"/api/v1/placements/{placement}/rates";

    private Task<JsonNode> SaveAsync(object[] rates, bool correctsPast = false) =>
        _editor.DoAsync(HttpMethod.Put, RatesOf(_placement), new { rates, correctsPast });

    /// <summary>What clicks on the placement's links cost, and visits of those without a short link, by two rates.</summary>
    private Task<decimal> UsesAsync(DateOnly turn, decimal earlier, decimal later) =>
        _host.ScalarAsync<decimal>(
            """
            select coalesce(sum(uses * case when day >= $2 then $4 else $3 end), 0) from (
                select c.day, c.clicks as uses from click_day c join short_links s on s.id = c.short_link_id join links l on l.id = s.link_id
                where l.placement_id = $1 and c.kind = 'Person'
                union all
                select v.day, 1 from visit v join links l on l.id = v.link_id
                where l.placement_id = $1 and not exists (select from short_links s where s.link_id = l.id)
            ) u
            """,
            _placement,
            turn,
            earlier,
            later
        );

    private static decimal AmountOf(JsonNode money) => decimal.Parse(money.Text("amount"), CultureInfo.InvariantCulture);

    private async Task<decimal> CostAsync(string query) =>
        (
            await _host.GetJsonAsync(
                $"/api/v1/arrivals?{Ever}&{(query.StartsWith("rows", StringComparison.Ordinal) ? "" : "rows=&")}{query}"
            )
        )["total"]!["cost"]
            is { } cost
            ? AmountOf(cost)
            : 0;

    private async Task<Dictionary<string, decimal>> RowsAsync(string query) =>
        (await _host.GetJsonAsync($"/api/v1/arrivals?{Ever}&{query}"))["rows"]!
            .AsArray()
            .Where(r => r!["figures"]!["cost"] is not null)
            .ToDictionary(r => r!["keys"]![0]?.GetValue<string>() ?? "", r => AmountOf(r!["figures"]!["cost"]!));

    private async Task<JsonNode> ImportAsync(string file, bool dry = false)
    {
        using var form = new MultipartFormDataContent();
        using var content = new ByteArrayContent(Encoding.UTF8.GetBytes(file));
        content.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        form.Add(content, "file", "costs.csv");
        using var answer = await _editor.PostAsync($"/api/v1/imports/costs?dry={JsonSerializer.Serialize(dry)}", form);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        return JsonNode.Parse(text)!;
    }
}
