using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.LinkReviews;

/// <summary>Links in use, judged and mended.</summary>
[Collection(nameof(DemoHost))]
public sealed class LinkReviewTests(DemoHost demo)
{
    private static async Task<JsonNode> JudgeAsync(HttpClient client, byte[] links, string name)
    {
        using var answer = await client.PostAsync($"/api/v1/link-reviews?name={name}", new ByteArrayContent(links));
        return JsonNode.Parse((await answer.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries)[^1])!;
    }

    [Fact]
    public async Task Old_links_are_counted_by_rule_mended_and_handed_out()
    {
        using var client = demo.Host.As("editor");
        byte[] sheet = await File.ReadAllBytesAsync(Path.Combine(DatabaseCluster.Root, "samples", "old-links.csv"));
        string path = $"/api/v1/link-reviews/{(await JudgeAsync(client, sheet, "old-links.csv")).Text("id")}";
        var review = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal(73, review.Whole("right") + review.Whole("mended") + review.Whole("stuck"));
        foreach (var rule in review["rules"]!.AsArray())
        {
            var links = await client.DoAsync(HttpMethod.Get, $"{path}/links?rule={rule.Text("rule")}&most=500");
            Assert.Equal((rule.Whole("links"), rule.Whole("links")), (links.Whole("total"), links["links"]!.AsArray().Count));
            Assert.All(links["links"]!.AsArray(), l =>
                Assert.Contains(rule.Text("rule"), l!["rules"]!.ToJsonString(), StringComparison.Ordinal)
            );
        }

        Assert.Equal(
            review.Whole("mended"),
            (await client.DoAsync(HttpMethod.Get, $"{path}/links?state=mended&most=500"))["links"]!
                .AsArray()
                .Count(l => l!["mendedUrl"] is not null)
        );

        var table = TableText.Read(FileText.Decode(await client.GetByteArrayAsync($"{path}/result.csv"), FileEncoding.Utf8Marked), ',');
        Assert.Equal((73, "Repaired link"), (table.Rows.Count, table.Headings[5]));
        Assert.Equal("PK", Encoding.ASCII.GetString((await client.GetByteArrayAsync($"{path}/result.xlsx"))[..2]));
        string report = await client.GetStringAsync($"{path}/report");
        Assert.Contains("Link review of old-links.csv", report, StringComparison.Ordinal);
        Assert.DoesNotContain("<script", report, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public async Task What_strangers_wrote_leaves_as_text_and_a_list_without_links_is_refused()
    {
        using var client = demo.Host.As("editor");
        string list =
            "https://marrowmere.example/?utm_source=<img src=x>&utm_medium=email\thttps://x.example/<b>\r\n=cmd|' /C calc'!A0\r\n@SUM(1)\r\n";
        string path = $"/api/v1/link-reviews/{(await JudgeAsync(client, Encoding.UTF8.GetBytes(list), "list")).Text("id")}";
        var table = TableText.Read(FileText.Decode(await client.GetByteArrayAsync($"{path}/result.csv"), FileEncoding.Utf8Marked), ',');
        Assert.Equal(["'=cmd|' /C calc'!A0", "'@SUM(1)"], table.Rows.Skip(1).Select(r => r[1]));
        string report = await client.GetStringAsync($"{path}/report");
        Assert.Contains("&lt;img src=x&gt;", report, StringComparison.Ordinal);
        Assert.DoesNotContain("<img src=x>", report, StringComparison.Ordinal);

        using var answer = await client.PostAsync(
            "/api/v1/link-reviews?name=x",
            new ByteArrayContent("Name,Age\r\nFern,3\r\n"u8.ToArray())
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        using var nothing = await client.PostAsync("/api/v1/link-reviews?name=x", new ByteArrayContent([]));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, nothing.StatusCode);
    }
}
