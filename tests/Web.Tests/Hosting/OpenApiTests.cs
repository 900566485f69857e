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

        Assert.True(served == await File.ReadAllTextAsync(file), "src/client/openapi.json is stale; run scripts/api.");
    }
}
