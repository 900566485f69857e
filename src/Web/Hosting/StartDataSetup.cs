using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Start;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Settles at start whether this is the demo: sign-ins and keys that everybody knows never work beside real data.</summary>
public static partial class StartDataSetup
{
    /// <summary>Fills an empty database where that was asked for.</summary>
    /// <returns>Why the application must not start, or null.</returns>
    public static async Task<string?> SettleAsync(IServiceProvider services, CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<BeaconDb>();
        var mode = scope.ServiceProvider.GetRequiredService<RunMode>();
        var log = scope.ServiceProvider.GetRequiredService<ILoggerFactory>().CreateLogger("PreciseBeacon.StartData");
        var kinds = await db.Workspaces.Select(w => w.IsDemo).Distinct().ToListAsync(cancel);

        if (!scope.ServiceProvider.GetRequiredService<IOptions<BeaconOptions>>().Value.Demo)
        {
            return kinds.Contains(true)
                ? "This database holds the demo, whose sign-ins everybody knows; start it as the demo, or with --reset --empty, or with another --data."
                : null;
        }

        if (scope.ServiceProvider.GetService<IStartData>() is not { } start)
        {
            return "This copy has no demo; start it with --empty.";
        }

        if (kinds.Contains(false))
        {
            LogReal(log);
            return null;
        }

        mode.IsDemo = true;
        if (kinds.Count == 0)
        {
            long began = Stopwatch.GetTimestamp();
            int visits = await start.LoadAsync(scope.ServiceProvider, cancel);
            LogLoaded(log, visits, Stopwatch.GetElapsedTime(began).TotalSeconds);
        }
        else if (!await start.IsWholeAsync(db, cancel))
        {
            return "The demo was loaded only in part last time; start once with --reset.";
        }
        else
        {
            await start.FollowAsync(scope.ServiceProvider, cancel);
        }

        return null;
    }

    [LoggerMessage(LogLevel.Warning, "This database holds real data, so the demo stays out.")]
    private static partial void LogReal(ILogger log);

    [LoggerMessage(LogLevel.Information, "The demo was loaded with {Visits} visits in {Seconds:0.0} s.")]
    private static partial void LogLoaded(ILogger log, int visits, double seconds);
}
