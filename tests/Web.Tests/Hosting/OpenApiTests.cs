using System.Net;
using System.Text.Json.Nodes;

namespace PreciseBeacon.WebTests.Hosting;

[Collection(nameof(DemoHost))]
public sealed class OpenApiTests(DemoHost demo)
{
    /// <summary>The description checked in is the one served; the interface's types are made from it.</summary>
    [Fact]
    public async Task The_description_checked_in_is_the_one_served()
    {
        string file = Path.Combine(DatabaseCluster.Root, "src/client/openapi.json");
        using var client = demo.Host.Anonymous();
        string served = await client.GetStringAsync("/openapi/v1.json");
        if (Environment.GetEnvironmentVariable("BEACON_WRITE_OPENAPI") is { Length: > 0 })
        {
            await File.WriteAllTextAsync(file, served);
        }

        // Whoever writes against it finds each call by a name and a sentence, each parameter explained, and how it is refused.
        var paths = JsonNode.Parse(served)!["paths"]!.AsObject();
        var calls = paths.SelectMany(p => p.Value!.AsObject().Select(o => (Name: $"{o.Key} {p.Key}", Call: o.Value!.AsObject()))).ToList();
        Assert.All(calls, c =>
            Assert.True(
                c.Call["operationId"] is not null
                    && c.Call["summary"]?.GetValue<string>().EndsWith('.') == true
                    && c.Call["responses"]!.AsObject().Any(r => r.Key[0] == '4'),
                c.Name
            )
        );
        Assert.Equal(calls.Count, calls.DistinctBy(c => c.Call["operationId"]!.GetValue<string>()).Count());
        var unexplained = calls
            .SelectMany(c => c.Call["parameters"]?.AsArray() ?? [])
            .Where(p => p!["description"] is null)
            .Select(p => p!["name"]!.GetValue<string>())
            .Distinct();
        Assert.Empty(unexplained);
        var properties = JsonNode.Parse(served)!["components"]!["schemas"]!
            .AsObject()
            .SelectMany(schema =>
                schema.Value!["properties"]?.AsObject().Select(p => (Name: $"{schema.Key}.{p.Key}", Property: p.Value!)) ?? []
            )
            .ToList();
        Assert.Empty(
            properties
                .Where(p =>
                    p.Property["description"] is null && p.Property["oneOf"]?.AsArray().Any(o => o!["description"] is not null) != true
                )
                .Select(p => p.Name)
        );
        Assert.True(served == await File.ReadAllTextAsync(file), "src/client/openapi.json is stale; run scripts/api.");
    }

    /// <summary>The page to read it on ships with the application: nothing on it is fetched from elsewhere.</summary>
    [Fact]
    public async Task The_reference_page_is_served_with_its_script()
    {
        using var client = demo.Host.Anonymous();
        using var page = await client.GetAsync("/api/");
        string html = await page.Content.ReadAsStringAsync();
        Assert.True(page.IsSuccessStatusCode, html);
        Assert.Contains("openapi/v1.json", html, StringComparison.Ordinal);
        Assert.DoesNotContain("https://", html, StringComparison.Ordinal);
        Assert.Contains("default-src 'none'", page.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        using var script = await client.GetAsync("/api/scalar.js");
        Assert.Equal(HttpStatusCode.OK, script.StatusCode);
    }
}
