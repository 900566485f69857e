using System.Net;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Addresses;

/// <summary>How a workspace writes its links is its owner's choice, and holds for the next link.</summary>
public sealed class LinkWritingTests : IAsyncLifetime
{
    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync();

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task Placeholders_spaces_and_tags_already_there_are_written_as_chosen()
    {
        using var owner = _host.As("owner");
        using var editor = _host.As("editor");
        var asked = new
        {
            destination = $"http://{BeaconHost.GardenHost}/visit?who={{{{ contact.id }}}}&utm_source=old",
            fields = new
            {
                utm_source = "wendfar",
                utm_medium = "cpc",
                utm_term = "[keyword] a b",
            },
        };
        var before = await owner.DoAsync(HttpMethod.Get, "/api/v1/link-writing");
        Assert.Equal(["braces", "doubleBraces", "mergeTags"], before["placeholders"]!.AsArray().Select(p => p!.GetValue<string>()));
        Assert.Equal(("replace", false), (before.Text("existing"), before["plusForSpace"]!.GetValue<bool>()));
        string url = (await editor.DoAsync(HttpMethod.Post, "/api/v1/links/compose", asked)).Text("url");
        Assert.StartsWith(
            $"http://{BeaconHost.GardenHost}/visit?who={{{{ contact.id }}}}&utm_source=wendfar&",
            url,
            StringComparison.Ordinal
        );
        Assert.DoesNotContain("[keyword]", url, StringComparison.Ordinal);

        object changed = new
        {
            placeholders = new[] { "brackets" },
            existing = "keep",
            plusForSpace = true,
        };
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.CallAsync(HttpMethod.Put, "/api/v1/link-writing", changed)).Status);
        await owner.DoAsync(HttpMethod.Put, "/api/v1/link-writing", changed);
        url = (await editor.DoAsync(HttpMethod.Post, "/api/v1/links/compose", asked)).Text("url");
        Assert.StartsWith(
            $"http://{BeaconHost.GardenHost}/visit?who=%7B%7B%20contact.id%20%7D%7D&utm_source=old&",
            url,
            StringComparison.Ordinal
        );
        Assert.Contains("utm_term=[keyword]", url, StringComparison.Ordinal);
        foreach (
            object bad in new object[]
            {
                new
                {
                    placeholders = new[] { "atClick" },
                    existing = "keep",
                    plusForSpace = true,
                },
                new { existing = "keep", plusForSpace = true },
            }
        )
        {
            var (status, refusal) = await owner.CallAsync(HttpMethod.Put, "/api/v1/link-writing", bad);
            Assert.Equal((HttpStatusCode.BadRequest, "placeholder-shape"), (status, refusal.Refusal().Rule));
        }
    }

    /// <summary>With parameters carried through, what the platform put behind the short link arrives at the page.</summary>
    [Fact]
    public async Task A_platforms_placeholder_is_filled_in_behind_a_short_link_that_carries_parameters()
    {
        using var editor = _host.As("editor");
        object Asked(string carries) =>
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Lantern Nights",
                placement = "Wendfar search ads",
                fields = new { utm_term = "{keyword}", utm_content = carries },
                carries,
            };
        var dropped = await editor.DoAsync(HttpMethod.Post, "/api/v1/links", Asked("nothing"));
        Assert.Equal(dropped["link"].Text("url"), dropped.Text("copyUrl"));
        Assert.Contains(dropped["link"]!["notices"]!.AsArray(), n => n.Text("rule") == "placeholder-on-short-link");
        var row = await _host.GetJsonAsync($"/api/v1/links/{dropped.Text("id")}");
        Assert.Equal((dropped.Text("copyUrl"), "nothing"), (row.Text("copyUrl"), row.Text("carries")));
        Assert.Contains(row["notices"]!.AsArray(), n => n.Text("rule") == "placeholder-on-short-link");

        var carried = await editor.DoAsync(HttpMethod.Post, "/api/v1/links", Asked("overwrite"));
        Assert.Equal($"{carried.Text("shortUrl")}?utm_term={{keyword}}", carried.Text("copyUrl"));
        Assert.DoesNotContain(carried["link"]!["notices"]!.AsArray(), n => n.Text("rule") == "placeholder-on-short-link");
        string placed = carried.Text("copyUrl").Replace("{keyword}", "orchid%20week", StringComparison.Ordinal);
        string? there = null;
        await Eventually.Async(async () =>
        {
            using var answer = await _host.ClickAsync(new Uri(placed).PathAndQuery);
            there = answer.Headers.Location?.OriginalString;
            return there is not null;
        });
        Assert.EndsWith("utm_term=orchid%20week", there, StringComparison.Ordinal);
        Assert.DoesNotContain("keyword", there, StringComparison.Ordinal);
    }
}
