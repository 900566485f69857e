using System.Net.Sockets;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Demo;

namespace PreciseBeacon.Web.Hosting;

/// <summary>
/// Applies migrations and settles whether this is the demo before anything is served; one process at a time, the others wait.
/// A process that starts while its database is away answers everything with 503, and goes on by itself once it is there.
/// </summary>
public sealed partial class DatabaseSetup(IServiceProvider services, IHostApplicationLifetime lifetime, TimeProvider clock, ILogger<DatabaseSetup> log) : BackgroundService
{
    private static readonly TimeSpan TryAgain = TimeSpan.FromSeconds(1);

    /// <summary>A step over very many links takes its time; half a step would keep the application from starting.</summary>
    private static readonly TimeSpan LongestStep = TimeSpan.FromHours(2);

    /// <summary>Whether requests may be served.</summary>
    public bool IsDone { get; private set; }

    /// <summary>Readies the database, or leaves it for later where it can't be reached.</summary>
    /// <returns>Why the application must not start; null when it may.</returns>
    public async Task<string?> TryAsync(CancellationToken cancel)
    {
        try
        {
            await using var scope = services.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<BeaconDb>();
            db.Database.SetCommandTimeout(LongestStep);
            await db.Database.MigrateAsync(cancel);
            if (await DemoSetup.SettleAsync(services, cancel) is { } refusal)
            {
                return refusal;
            }

            IsDone = true;
        }
        catch (Exception away) when (IsAway(away))
        {
            LogAway(away.Message);
        }

        return null;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!IsDone && !stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(TryAgain, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            if (!stoppingToken.IsCancellationRequested && await TryAsync(stoppingToken) is { } refusal)
            {
                LogRefused(refusal);
                Environment.ExitCode = 1;
                lifetime.StopApplication();
                return;
            }
        }
    }

    /// <summary>Nobody answers there, or it is still starting; what the database itself refuses is another matter.</summary>
    public static bool IsAway(Exception failure) => failure switch
    {
        PostgresException refused => refused.SqlState is PostgresErrorCodes.CannotConnectNow or PostgresErrorCodes.AdminShutdown or PostgresErrorCodes.CrashShutdown,
        NpgsqlException or SocketException => true,
        _ => failure.InnerException is { } inner && IsAway(inner),
    };

    [LoggerMessage(LogLevel.Warning, "The database can't be reached: {Reason} Everything is answered with 503 until it can.")]
    private partial void LogAway(string reason);

    [LoggerMessage(LogLevel.Critical, "{Refusal}")]
    private partial void LogRefused(string refusal);
}
