using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Bench;

/// <summary>Readies a database as the application does, with the demo's plan and no visits.</summary>
internal static class DemoDatabase
{
    /// <param name="connection">An empty database.</param>
    /// <param name="root">The project's root.</param>
    /// <param name="data">A directory for the application's files.</param>
    public static async Task MakeAsync(string connection, string root, string data)
    {
        await using var app = BeaconApp.Build(
            [
                $"--contentRoot={Path.Combine(root, "src/Web")}",
                $"--ConnectionStrings:Beacon={connection}",
                $"--Beacon:DataDirectory={data}",
                "--Beacon:Demo=true",
                "--Beacon:DemoVisits=0",
                "--Logging:LogLevel:Default=Error",
            ],
            startData: PreciseBeacon.Demo.DemoModule.Add
        );
        if (await app.Services.GetRequiredService<DatabaseSetup>().TryAsync(CancellationToken.None) is { } refusal)
        {
            throw new InvalidOperationException(refusal);
        }
    }
}
