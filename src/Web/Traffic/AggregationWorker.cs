using System.Diagnostics;
using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Works clicks and visits out in the background, as soon as raw events have come. Rests between batches.</summary>
public sealed class AggregationWorker(
    DatabaseSetup setup,
    ClickAggregator clicks,
    VisitAggregator visits,
    WorkSignal signal,
    SpoolWorker spools,
    ILogger<AggregationWorker> log
) : DatabaseWorker(setup)
{
    private static readonly TimeSpan LookAnyway = TimeSpan.FromSeconds(5);

    private readonly Outage _outage = new(log, "Clicks and visits wait to be worked out.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        var pace = new DrainThrottle(spools.Own);
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                long began = Stopwatch.GetTimestamp();
                int done = await clicks.WorkOutAsync(stopping) + await visits.WorkOutAsync(stopping);
                _outage.End();
                if (done > 0)
                {
                    await Task.Delay(pace.RestAfter(Stopwatch.GetElapsedTime(began)), stopping);
                }
                else
                {
                    await signal.WaitAsync(LookAnyway, stopping);
                }
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
                await Task.Delay(LookAnyway, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }
}
