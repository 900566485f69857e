using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>The whole demo as ./start runs it: application, database and garden, on ports of their own.</summary>
public sealed class RunningDemo : IAsyncLifetime
{
    private readonly string _data = Directory.CreateTempSubdirectory("beacon-browser-").FullName;
    private string _connection = "";
    private BeaconProcess? _app;
    private BeaconProcess? _garden;

    public string Address => $"http://localhost:{_app!.Port}";

    public string GardenHost => $"garden.localhost:{_garden!.Port}";

    public string AdsAddress => $"http://ads.localhost:{_garden!.Port}";

    public string InboxAddress => $"http://inbox.localhost:{_garden!.Port}";

    public string ShortHost => $"mmr.localhost:{_app!.Port}";

    public async Task InitializeAsync()
    {
        _connection = await DatabaseCluster.NewDatabaseAsync(demoVisits: 0);
        int port = DatabaseCluster.FreePort();
        int gardenPort = DatabaseCluster.FreePort();
        _garden = await BeaconProcess.StartGardenAsync(gardenPort, $"http://localhost:{port}");
        _app = await BeaconProcess.StartAsync(_connection, _data, port, visits: 0, siteHost: $"garden.localhost:{gardenPort}");
    }

    public async Task DisposeAsync()
    {
        foreach (var process in new[] { _app, _garden }.OfType<BeaconProcess>())
        {
            await process.DisposeAsync();
        }

        await DatabaseCluster.DropAsync(_connection);
        Directory.Delete(_data, recursive: true);
    }

    /// <summary>Signs a demo person in and waits for Compose.</summary>
    public void SignIn(Browser browser, string name)
    {
        browser.Open($"{Address}/sign-in");
        browser.Click("button", name);
        browser.Find("heading", "Compose");
    }
}
