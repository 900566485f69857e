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
        Assert.All(calls, c => Assert.True(
            c.Call["operationId"] is not null && c.Call["summary"]?.GetValue<string>().EndsWith('.') == true && c.Call["responses"]!.AsObject().Any(r => r.Key[0] == '4'), c.Name));
        Assert.Equal(calls.Count, calls.DistinctBy(c => c.Call["operationId"]!.GetValue<string>()).Count());
        var unexplained = calls.SelectMany(c => c.Call["parameters"]?.AsArray() ?? []).Where(p => p!["description"] is null).Select(p => p!["name"]!.GetValue<string>()).Distinct();
        Assert.Empty(unexplained);
        Assert.True(served == await File.ReadAllTextAsync(file), "src/client/openapi.json is stale; run scripts/api.");
    }
}
