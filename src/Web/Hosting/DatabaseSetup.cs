using System.Net.Sockets;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;

namespace PreciseBeacon.Web.Hosting;

/// <summary>
/// Applies migrations and settles whether this is the demo before anything is served; one process at a time, the others wait.
/// A process that starts while its database is away answers everything with 503, and goes on by itself once it is there.
/// </summary>
public sealed partial class DatabaseSetup(
    IServiceProvider services,
    IHostApplicationLifetime lifetime,
    TimeProvider clock,
    ILogger<DatabaseSetup> log
) : BackgroundService
{
    private static readonly TimeSpan TryAgain = TimeSpan.FromSeconds(1);

    /// <summary>A step over very many links takes its time; half a step would keep the application from starting.</summary>
    private static readonly TimeSpan LongestStep = TimeSpan.FromHours(2);

    /// <summary>Class of SQLSTATE ("PostgreSQL Error Codes", class 08).</summary>
    private const string ConnectionException = "08";

    private readonly Outage _outage = new(log, "Everything is answered with 503.");

    private readonly TaskCompletionSource _done = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Whether requests may be served.</summary>
    public bool IsDone => _done.Task.IsCompletedSuccessfully;

    /// <summary>Why the application must not start; null as long as it may.</summary>
    public string? Refusal { get; private set; }

    /// <summary>Waits until the database was readied.</summary>
    public Task WaitAsync(CancellationToken cancel) => _done.Task.WaitAsync(cancel);

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
            if (await StartDataSetup.SettleAsync(services, cancel) is { } refusal)
            {
                return refusal;
            }

            _done.TrySetResult();
            _outage.End();
        }
        catch (Exception away) when (IsAway(away))
        {
            _outage.Begin(away);
        }

        return null;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // The host waits for whatever comes before the first pause, with the door still closed.
        await Task.Yield();
        while (!IsDone && !stoppingToken.IsCancellationRequested)
        {
            try
            {
                Refusal = await TryAsync(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception broken)
            {
                LogBroken(broken);
                Refusal = "The database can't be set up; see above.";
            }

            if (Refusal is not null)
            {
                await Console.Error.WriteLineAsync(Refusal);
                Environment.ExitCode = 1;
                lifetime.StopApplication();
                return;
            }

            await Task.Delay(IsDone ? TimeSpan.Zero : TryAgain, clock, stoppingToken)
                .ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    /// <summary>Two transactions waited for each other, and the database ended this one (SQLSTATE 40P01 and 40001).</summary>
    public static bool IsStandoff(Exception failure) =>
        failure is PostgresException { SqlState: PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure }
        || (failure.InnerException is { } inner && IsStandoff(inner));

    /// <summary>Nobody answers there, or it is still starting; what the database itself refuses is another matter.</summary>
    public static bool IsAway(Exception failure) =>
        failure switch
        {
            PostgresException refused => refused.SqlState.StartsWith(ConnectionException, StringComparison.Ordinal)
                || refused.SqlState
                    is PostgresErrorCodes.CannotConnectNow
                        or PostgresErrorCodes.AdminShutdown
                        or PostgresErrorCodes.CrashShutdown
                        or PostgresErrorCodes.TooManyConnections,
            NpgsqlException or SocketException => true,
            _ => failure.InnerException is { } inner && IsAway(inner),
        };

    [LoggerMessage(LogLevel.Critical, "The database can't be set up.")]
    private partial void LogBroken(Exception exception);
}
