using System.Text.Json.Nodes;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.WebTests.Hosting;
using PreciseBeacon.WebTests.Outbox;

namespace PreciseBeacon.BrowserTests;

/// <summary>
/// The whole demo as ./start runs it: application, database and garden, on ports of their own. The application runs inside the
/// tests' process, where what was compiled for one is there for the next.
/// </summary>
public class RunningDemo : IAsyncLifetime
{
    private BeaconHost? _app;
    private BeaconProcess? _garden;

    /// <summary>Visits it begins with.</summary>
    protected virtual int Visits => 0;

    public string Address => $"http://localhost:{_app!.Port}";

    public string GardenHost => $"garden.localhost:{_garden!.Port}";

    public string AdsAddress => $"http://ads.localhost:{_garden!.Port}";

    public string InboxAddress => $"http://inbox.localhost:{_garden!.Port}";

    public string ShortHost => _app!.ShortHost;

    public async Task InitializeAsync()
    {
        int port = DatabaseCluster.FreePort();
        int gardenPort = DatabaseCluster.FreePort();
        int letterbox = DatabaseCluster.FreePort();
        _garden = await BeaconProcess.StartGardenAsync(gardenPort, $"http://localhost:{port}", letterbox);
        _app = await BeaconHost.StartAsync(
            visits: Visits,
            port: port,
            more:
            [
                $"--Beacon:DemoSiteHost=garden.localhost:{gardenPort}",
                .. MailServer.Settings(letterbox),
                $"--Beacon:PublicUrl=http://localhost:{port}",
                $"--Beacon:ClientDirectory={Path.Combine(DatabaseCluster.Root, "src/client/dist")}",
            ]
        );
    }

    public async Task DisposeAsync()
    {
        await (_garden?.DisposeAsync() ?? default);
        await (_app?.DisposeAsync() ?? default);
    }

    /// <summary>The id of a placement or campaign by its name.</summary>
    public async Task<string> IdOfAsync(string list, string name)
    {
        using var client = new HttpClient();
        client.DefaultRequestHeaders.Authorization = new("Bearer", "demo-editor");
        return JsonNode
            .Parse(await client.GetStringAsync($"{Address}/api/v1/{list}"))!
            .AsArray()
            .Single(p => p!["name"]!.GetValue<string>() == name)!["id"]!.GetValue<string>();
    }

    /// <summary>Signs a demo person in and waits for Compose.</summary>
    public void SignIn(Browser browser, string name)
    {
        browser.Open($"{Address}/sign-in");
        browser.Click("button", name);
        browser.Find("heading", "Compose");
    }
}

/// <summary>The same with some weeks of visits.</summary>
public sealed class VisitedDemo : RunningDemo
{
    protected override int Visits => 2_000;
}
