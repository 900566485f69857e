using System.Net;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>The interface is at the public URL alone; short domains and hosts of sites have what is theirs.</summary>
[Collection(nameof(DemoHost))]
public sealed class HostGateTests(DemoHost demo)
{
    [Theory]
    [InlineData("evil.example", "/sign-in", HttpStatusCode.MisdirectedRequest)]
    [InlineData("evil.example", "/api/account", HttpStatusCode.MisdirectedRequest)]
    [InlineData("evil.example", "/beacon.js", HttpStatusCode.MisdirectedRequest)]
    [InlineData("evil.example", "/healthz", HttpStatusCode.OK)]
    [InlineData("localhost", "/sign-in", HttpStatusCode.OK)] // in the demo
    [InlineData("{short}", "/sign-in", HttpStatusCode.NotFound)]
    [InlineData("{short}", "/api/account", HttpStatusCode.NotFound)]
    [InlineData("{short}", "/beacon.js", HttpStatusCode.OK)]
    [InlineData(BeaconHost.GardenHost, "/beacon.js", HttpStatusCode.OK)]
    [InlineData(BeaconHost.GardenHost, "/sign-in", HttpStatusCode.MisdirectedRequest)]
    public async Task What_a_host_shows(string host, string path, HttpStatusCode status)
    {
        using var client = demo.Host.Anonymous();
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Host = host.Replace("{short}", demo.Host.ShortHost, StringComparison.Ordinal);
        using var answer = await client.SendAsync(request);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(
            status == answer.StatusCode
                || (
                    path != "/healthz"
                    && status == HttpStatusCode.OK
                    && answer.StatusCode == HttpStatusCode.ServiceUnavailable
                    && text.Contains("has not been built", StringComparison.Ordinal)
                ),
            $"{(int)answer.StatusCode} {text}"
        );
    }

    [Fact]
    public async Task Outside_the_demo_a_name_of_this_machine_is_a_host_like_any_other()
    {
        await using var host = await BeaconHost.StartAsync(demo: false);
        using var client = host.Anonymous();
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/account");
        request.Headers.Host = $"localhost:{host.Port}";
        Assert.Equal(HttpStatusCode.MisdirectedRequest, (await client.SendAsync(request)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/account")).StatusCode);
    }
}
