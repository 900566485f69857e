using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Views of Arrivals as pages for people without an account.</summary>
[Collection(nameof(DemoHost))]
public sealed class ResultPageTests(DemoHost demo)
{
    private const string View =
        "span=365d&rows=source,medium&compare=before&where=medium%3Anot%3Aprint&stations=visits,revenue&sort=-revenue";
    private const string Pages = "/api/v1/results-pages";

    private async Task<(JsonNode Page, string Path)> MakeAsync(bool withMoney = false, string address = View, string? endsOn = null)
    {
        using var editor = demo.Host.As("editor");
        var page = await editor.DoAsync(
            HttpMethod.Post,
            Pages,
            new
            {
                name = "Autumn for the board",
                address,
                withMoney,
                endsOn,
            }
        );
        return (page, $"/api/v1/results/{page.Text("url").Split('/')[^1]}");
    }

    [Fact]
    public async Task A_page_says_what_the_view_says_and_its_rows_open()
    {
        var (_, path) = await MakeAsync(withMoney: true);
        using var anybody = demo.Host.Anonymous();
        var about = await anybody.DoAsync(HttpMethod.Get, path);
        Assert.Equal(("Autumn for the board", View, "EUR"), (about.Text("title"), about.Text("address"), about.Text("currency")));
        const string Measures = "measures=visits,revenue";
        var shared = await anybody.DoAsync(HttpMethod.Get, $"{path}/arrivals?{Measures}");
        string days = $"from={shared.Text("from")}&to={shared.Text("to")}";
        var own = await demo.Host.GetJsonAsync(
            $"/api/v1/arrivals?{days}&rows=source&compare=before&where=medium:not:print&{Measures}&size=500"
        );
        Assert.True(own["rows"]!.AsArray().Count > 1);
        Assert.Equal(own["rows"]!.ToJsonString(), shared["rows"]!.ToJsonString());
        Assert.Equal(own["total"]!.ToJsonString(), shared["total"]!.ToJsonString());
        Assert.Equal(own["before"]!.ToJsonString(), shared["before"]!.ToJsonString());

        string source = own["rows"]![0]!["keys"]![0]!.GetValue<string>();
        string open = Uri.EscapeDataString($"source:is:{source}");
        var below = await anybody.DoAsync(HttpMethod.Get, $"{path}/arrivals?{Measures}&open={open}");
        var ownBelow = await demo.Host.GetJsonAsync(
            $"/api/v1/arrivals?{days}&rows=medium&compare=before&where=medium:not:print&where={open}&{Measures}&size=500"
        );
        Assert.Equal(ownBelow["rows"]!.ToJsonString(), below["rows"]!.ToJsonString());
        var course = await anybody.DoAsync(HttpMethod.Get, $"{path}/arrivals?series=week&measures=visits");
        Assert.Empty(course["rows"]!.AsArray());
        Assert.Equal(own["total"]!.Whole("visits"), course["series"]!.AsArray().Sum(p => p.Whole("visits")));
    }

    [Theory]
    [InlineData("open=medium%3Ais%3Aemail")] // the first level is by source
    [InlineData("open=source%3Anot%3Aa")]
    [InlineData("open=country%3Ais%3AGB")]
    [InlineData("open=source%3Ais%3Aa&open=medium%3Ais%3Ab&open=source%3Ais%3Aa")]
    public async Task Only_the_pages_own_rows_open(string asked)
    {
        var (_, path) = await MakeAsync();
        using var anybody = demo.Host.Anonymous();
        var (status, json) = await anybody.CallAsync(HttpMethod.Get, $"{path}/arrivals?{asked}");
        Assert.Equal((HttpStatusCode.BadRequest, "open-refused"), (status, json.Refusal().Rule));
    }

    [Fact]
    public async Task Days_conditions_and_rows_are_the_pages_own()
    {
        var (_, path) = await MakeAsync();
        using var anybody = demo.Host.Anonymous();
        var plain = await anybody.DoAsync(HttpMethod.Get, $"{path}/arrivals?measures=visits");
        var forced = await anybody.DoAsync(
            HttpMethod.Get,
            $"{path}/arrivals?measures=visits&from=2020-01-01&rows=country&where=source:is:direct&compare=yearBefore"
        );
        Assert.Equal(plain["rows"]!.ToJsonString(), forced["rows"]!.ToJsonString());
        Assert.Equal(plain.Text("from"), forced.Text("from"));
    }

    [Fact]
    public async Task Without_leave_there_is_no_money_anywhere()
    {
        var (_, path) = await MakeAsync(address: View + "&rows=source");
        using var anybody = demo.Host.Anonymous();
        Assert.Null((await anybody.DoAsync(HttpMethod.Get, path))["currency"]);
        foreach (string asked in new[] { "measures=visits,revenue,averageOrder,revenuePerVisit,revenuePerVisitor", "sort=-revenue", "" })
        {
            var shared = await anybody.DoAsync(HttpMethod.Get, $"{path}/arrivals?{asked}");
            Assert.Equal("-visits", shared.Text("sort"));
            foreach (
                var figures in shared["rows"]!
                    .AsArray()
                    .SelectMany(r => new[] { r!["figures"], r["before"] })
                    .Append(shared["total"])
                    .Append(shared["before"])
                    .OfType<JsonNode>()
            )
            {
                Assert.All(new[] { "revenue", "averageOrder", "revenuePerVisit", "revenuePerVisitor" }, money =>
                    Assert.Null(figures[money])
                );
            }

            Assert.DoesNotContain("EUR", shared.ToJsonString(), StringComparison.Ordinal);
        }

        string[] campaigns = [.. (await demo.Host.GetJsonAsync("/api/v1/campaigns")).AsArray().Take(2).Select(c => c.Text("value"))];
        var (_, side) = await MakeAsync(address: $"span=365d&compare=campaigns:{string.Join(',', campaigns)}");
        var beside = await anybody.DoAsync(HttpMethod.Get, $"{side}/arrivals?measures=visits,revenue");
        Assert.Equal(2, beside["campaigns"]!.AsArray().Count);
        Assert.DoesNotContain("EUR", beside.ToJsonString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_page_is_withdrawn_ends_and_is_counted()
    {
        var (page, path) = await MakeAsync(endsOn: DateOnly.FromDateTime(DateTime.UtcNow.AddDays(1)).ToString("yyyy-MM-dd", null));
        string local = new Uri(page.Text("url")).AbsolutePath,
            own = $"{Pages}/{page.Text("id")}";
        using var anybody = demo.Host.Anonymous();
        using var opened = await anybody.GetAsync(local);
        Assert.Contains("no-referrer", opened.Headers.GetValues("Referrer-Policy"));
        Assert.Contains("noindex", string.Join(' ', opened.Headers.GetValues("X-Robots-Tag")), StringComparison.Ordinal);
        using var editor = demo.Host.As("editor");
        Assert.Equal(
            1,
            (await editor.DoAsync(HttpMethod.Get, Pages)).AsArray().Single(p => p.Text("id") == page.Text("id")).Whole("openings")
        );

        var changed = await editor.DoAsync(HttpMethod.Put, own, new { name = "For the council", withMoney = true });
        Assert.Equal((page.Text("url"), View, "For the council"), (changed.Text("url"), changed.Text("address"), changed.Text("name")));
        Assert.Equal("EUR", (await anybody.DoAsync(HttpMethod.Get, path)).Text("currency"));

        // A last day that is over: nobody can open it, and its owner sees why.
        await using (var over = demo.Host.Database.CreateCommand("update result_pages set ends_on = '2026-01-31' where id = $1"))
        {
            over.Parameters.Add(new() { Value = Guid.Parse(page.Text("id")) });
            await over.ExecuteNonQueryAsync();
        }

        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync(local)).StatusCode);
        var (status, json) = await anybody.CallAsync(HttpMethod.Get, $"{path}/arrivals");
        Assert.Equal((HttpStatusCode.NotFound, "not-found"), (status, json.Refusal().Rule));
        Assert.True(
            (await editor.DoAsync(HttpMethod.Get, Pages)).AsArray().Single(p => p.Text("id") == page.Text("id"))!["ended"]!.GetValue<bool>()
        );

        await editor.DoAsync(HttpMethod.Delete, own);
        Assert.DoesNotContain((await editor.DoAsync(HttpMethod.Get, Pages)).AsArray(), p => p.Text("id") == page.Text("id"));
        Assert.Equal(HttpStatusCode.NotFound, (await editor.CallAsync(HttpMethod.Delete, own)).Status);
    }

    [Theory]
    [InlineData("", "rows=source", null, "name-missing")]
    [InlineData("Past", "rows=source", "2026-01-31", "end-past")]
    public async Task What_cannot_be_a_page_is_refused(string name, string address, string? endsOn, string rule)
    {
        using var editor = demo.Host.As("editor");
        var (_, json) = await editor.CallAsync(
            HttpMethod.Post,
            Pages,
            new
            {
                name,
                address,
                endsOn,
            }
        );
        Assert.Equal(rule, json.Refusal().Rule);
    }

    /// <summary>An address may hold anything: what it asks for wrongly is as if it were not there.</summary>
    [Theory]
    [InlineData("rows=&where=nonsense&compare=never&from=2026-13-01&to=x&span=always&sort=pretty&size=-1")]
    [InlineData("%%%&&&==")]
    [InlineData("")]
    public async Task A_page_of_a_strange_address_shows_the_usual(string address)
    {
        var (_, path) = await MakeAsync(withMoney: true, address: address);
        using var anybody = demo.Host.Anonymous();
        var shared = await anybody.DoAsync(HttpMethod.Get, $"{path}/arrivals?measures=visits");
        var own = await demo.Host.GetJsonAsync("/api/v1/arrivals?rows=campaign&measures=visits&size=500");
        Assert.Equal(own["rows"]!.ToJsonString(), shared["rows"]!.ToJsonString());
    }

    [Fact]
    public async Task A_short_links_page_leads_to_its_results_where_that_is_allowed()
    {
        var link = await demo.Host.SaveLinkAsync();
        string path = $"/api/v1/links/{link.Text("id")}/results-page";
        using var editor = demo.Host.As("editor");
        string address = (await editor.DoAsync(HttpMethod.Post, path)).Text("address");
        await Task.Delay(TimeSpan.FromSeconds(1));
        Assert.DoesNotContain(address, await WhereAsync(), StringComparison.Ordinal);
        Assert.Equal(address, (await editor.DoAsync(HttpMethod.Post, path, new { onWherePage = true })).Text("address"));
        Assert.Contains(address, await WhereAsync(), StringComparison.Ordinal);
        await editor.DoAsync(HttpMethod.Delete, path);
        Assert.DoesNotContain(address, await WhereAsync(), StringComparison.Ordinal);

        async Task<string> WhereAsync()
        {
            // Asked seldom: until the slug is known, each question counts as a guess at one.
            string page = "";
            for (int i = 0; i < 40; i++)
            {
                using var client = demo.Host.Anonymous();
                using var request = new HttpRequestMessage(HttpMethod.Get, $"/{link.Text("shortUrl").Split('/')[^1]}/where");
                request.Headers.Host = demo.Host.ShortHost;
                using var answer = await client.SendAsync(request);
                page = await answer.Content.ReadAsStringAsync();
                if (answer.StatusCode == HttpStatusCode.OK)
                {
                    break;
                }

                await Task.Delay(TimeSpan.FromSeconds(2));
            }

            return page;
        }
    }
}
