using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>The links behind a row of Arrivals, as a selection in the Ledger.</summary>
[Collection(nameof(DemoHost))]
public sealed class LinksOfVisitsTests(DemoHost demo)
{
    [Fact]
    public async Task The_ledger_narrows_to_the_links_behind_a_row()
    {
        string today = DateTime.UtcNow.ToString("yyyy-MM-dd", null),
            from = DateTime.UtcNow.AddDays(-400).ToString("yyyy-MM-dd", null);
        string days = $"from={from}&to={today}",
            visits = $"visitsFrom={from}&visitsTo={today}";
        var links = (await demo.Host.GetJsonAsync($"/api/v1/arrivals?{days}&rows=link&where=medium:is:email&measures=visits&size=500"))[
            "rows"
        ]!
            .AsArray()
            .Select(r => r!["keys"]![0]?.GetValue<string>())
            .OfType<string>()
            .ToHashSet();
        Assert.NotEmpty(links);
        var found = (await demo.Host.GetJsonAsync($"/api/v1/links?state=all&size=500&{visits}&visitsWhere=medium:is:email"))["links"]!
            .AsArray()
            .Select(l => l.Text("id"))
            .ToHashSet();
        Assert.Equal(links.Order(), found.Order());
        var ids = (await demo.Host.GetJsonAsync($"/api/v1/links/ids?state=all&{visits}&visitsWhere=medium:is:email")).AsArray();
        Assert.Equal(links.Order(), ids.Select(i => i!.GetValue<string>()).Order());
        var groups = (
            await demo.Host.GetJsonAsync($"/api/v1/links/groups?by=state&state=all&{visits}&visitsWhere=medium:is:email")
        ).AsArray();
        Assert.Equal(links.Count, groups.Sum(g => g.Whole("links")));
        using var reader = demo.Host.As("viewer");
        string file = await reader.GetStringAsync($"/api/v1/links.csv?state=all&{visits}&visitsWhere=medium:is:email");
        Assert.Equal(links.Count + 1, file.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length);

        // All of it is narrowed further like any other selection.
        var none = await demo.Host.GetJsonAsync($"/api/v1/links?state=all&{visits}&visitsWhere=medium:is:nothing_like_it");
        Assert.Empty(none["links"]!.AsArray());
    }

    [Theory]
    [InlineData("visitsFrom=2026-02-01&visitsTo=2026-01-01", "range-refused")]
    [InlineData("visitsWhere=nonsense", "where-refused")]
    public async Task What_cannot_be_read_is_refused(string asked, string rule)
    {
        using var reader = demo.Host.As("viewer");
        foreach (string path in new[] { "/api/v1/links", "/api/v1/links.csv", "/api/v1/links.xlsx", "/api/v1/links/ids" })
        {
            var (_, json) = await reader.CallAsync(HttpMethod.Get, $"{path}?{asked}");
            Assert.Equal(rule, json.Refusal().Rule);
        }

        JsonNode? grouped = (await reader.CallAsync(HttpMethod.Get, $"/api/v1/links/groups?by=state&{asked}")).Json;
        Assert.Equal(rule, grouped.Refusal().Rule);
    }
}
