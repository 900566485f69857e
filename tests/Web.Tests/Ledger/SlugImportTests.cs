using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Ledger;

/// <summary>Slugs of a shortener that closes: clashes shown first, then taken over, so that what is printed lives on.</summary>
[Collection(nameof(DemoHost))]
public sealed class SlugImportTests(DemoHost demo)
{
    private const string Site = $"http://{BeaconHost.GardenHost}";

    private static async Task<JsonNode> ReadAsync(HttpClient client, string sheet)
    {
        using var answer = await client.PostAsync("/api/v1/slugs/read", new ByteArrayContent(Encoding.UTF8.GetBytes(sheet)));
        return JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
    }

    [Fact]
    public async Task Clashes_are_shown_first_and_what_is_taken_over_leads_on_as_it_did()
    {
        string tag = Guid.NewGuid().ToString("N")[..8];
        var taken = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("editor");
        string sheet = $"""
            Name;Short address;Destination
            Shop window;https://old.example/Fern-{tag};{Site}/shop?utm_source=window&utm_medium=qr&size=2
            Twice;fern-{tag};{Site}/visit
            Taken;{taken.Text("shortUrl").Split('/')[^1].ToUpperInvariant()};{Site}/visit
            Alike;f3rn0{tag};{Site}/visit
            Alike too;f3rno{tag};{Site}/visit
            Strange;strange-{tag};https://elsewhere-{tag}.example/
            Reserved;admin;{Site}/visit
            Signs;a_b;{Site}/visit
            No page;bare-{tag};javascript:alert(1)
            """;
        var list = await ReadAsync(client, sheet);
        Assert.Equal(
            ["ready", "clash", "clash", "ready", "ready", "waits", "refused", "refused", "refused"],
            list["rows"]!.AsArray().Select(r => r.Text("outcome"))
        );
        Assert.Contains($"looks like “f3rn0{tag}”", list["rows"]![4].Text("says"), StringComparison.Ordinal);
        Assert.Equal(4, list.Whole("takes"));
        Assert.Equal(0, (await demo.Host.GetJsonAsync($"/api/v1/links?search={tag}")).Whole("total")); // nothing was stored yet

        var brought = await client.DoAsync(HttpMethod.Post, "/api/v1/slugs/import", new { rows = list["rows"], printed = true });
        Assert.Equal(4, brought.Whole("imported"));
        await Eventually.Async(async () =>
        {
            using var scan = await demo.Host.ClickAsync($"/FERN-{tag}");
            return scan.StatusCode == HttpStatusCode.Found
                && scan.Headers.Location?.OriginalString == $"{Site}/shop?utm_source=window&utm_medium=qr&size=2";
        });
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Host.ClickAsync($"/strange-{tag}")).StatusCode);
        await Eventually.Async(async () =>
            (await demo.Host.GetJsonAsync($"/api/v1/links?search=fern-{tag}"))["links"]!.AsArray() is [var link] && link.Whole("scans") == 1
        );

        // Brought again, all of it clashes, and nothing happens twice.
        Assert.Equal(0, (await client.DoAsync(HttpMethod.Post, "/api/v1/slugs/import", new { rows = list["rows"] })).Whole("imported"));
    }

    [Theory]
    [InlineData("a,b\n1,2", "slugs-refused")]
    [InlineData("", "slugs-refused")]
    public async Task What_is_no_list_is_refused(string sheet, string rule)
    {
        using var client = demo.Host.As("editor");
        Assert.Equal(rule, (await ReadAsync(client, sheet)).Refusal().Rule);
    }

    [Theory]
    [InlineData(" Fern ", "fern", true)]
    [InlineData("https://old.example/a/Fern?x=1#y", "fern", true)]
    [InlineData("old.example/fern/", "fern", true)]
    [InlineData("https://old.example", "", false)]
    [InlineData("", "", false)]
    [InlineData("where", "where", false)]
    public void A_slug_is_read_out_of_whatever_a_list_has(string cell, string slug, bool takes)
    {
        var read = SlugImportCell.Read(cell);
        Assert.Equal((slug, takes), (read.Slug, read.Problem is null));
    }
}
