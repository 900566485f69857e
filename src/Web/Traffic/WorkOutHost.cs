using System.Diagnostics;
using Npgsql;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Works clicks and visits out in the background, as soon as raw events have come. Rests between batches.</summary>
public sealed partial class WorkOutHost(ClickWorkOut clicks, VisitWorkOut visits, WorkSignal signal, SpoolHost spools, ILogger<WorkOutHost> log) : BackgroundService
{
    private static readonly TimeSpan LookAnyway = TimeSpan.FromSeconds(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        var pace = new Pace(spools.Own);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                long began = Stopwatch.GetTimestamp();
                int done = await clicks.WorkOutAsync(stoppingToken) + await visits.WorkOutAsync(stoppingToken);
                if (done > 0)
                {
                    await Task.Delay(pace.RestAfter(Stopwatch.GetElapsedTime(began)), stoppingToken);
                }
                else
                {
                    await signal.WaitAsync(LookAnyway, stoppingToken);
                }
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                LogWaiting(failure.Message);
                await Task.Delay(LookAnyway, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    [LoggerMessage(LogLevel.Warning, "Working out waits: {Reason}.")]
    private partial void LogWaiting(string reason);
}
