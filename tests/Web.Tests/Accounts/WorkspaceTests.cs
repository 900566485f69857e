using System.Net;
using System.Net.Http.Json;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

[Collection(nameof(DemoHost))]
public sealed class WorkspaceTests(DemoHost demo)
{
    [Fact]
    public async Task Nothing_of_one_workspace_is_seen_or_changed_from_another()
    {
        string key = await OtherWorkspace.MakeAsync(demo.Host);
        var link = await demo.Host.SaveLinkAsync("https://stranger.example/tickets");
        var host = await demo.Host.ScalarAsync<Guid>("select id from approved_hosts where host = 'stranger.example'");
        using var other = demo.Host.Client(key);

        foreach (string path in new[] { "", "/code.svg", "/code.png" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync($"/api/v1/links/{link["id"]}{path}")).StatusCode);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await other.PostAsync($"/api/v1/hosts/{host}/approve", null)).StatusCode);
        Assert.False(await demo.Host.ScalarAsync<bool>("select approved from approved_hosts where id = $1", host));
        Assert.Contains("\"total\":0", await other.GetStringAsync("/api/v1/links"), StringComparison.Ordinal);
        Assert.Equal("[]", await other.GetStringAsync("/api/v1/campaigns"));
        Assert.Equal("[]", await other.GetStringAsync("/api/v1/placements"));
        Assert.Equal("[]", await other.GetStringAsync("/api/v1/hosts"));
        Assert.Contains("\"rows\":[]", await other.GetStringAsync("/api/v1/arrivals?from=2026-01-01"), StringComparison.Ordinal);

        // Naming another workspace's campaign by its id finds nothing either.
        var campaign = await demo.Host.ScalarAsync<Guid>("select id from campaigns limit 1");
        using var composed = await other.PostAsJsonAsync(
            "/api/v1/links/compose",
            new { destination = "https://stranger.example", campaign = campaign.ToString() }
        );
        Assert.Contains("campaign-unknown", await composed.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}
