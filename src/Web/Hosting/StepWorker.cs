using System.Diagnostics;
using Npgsql;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Background work in bounded steps, with a rest after each, that waits out a database that is away.</summary>
/// <param name="setup">Says when the database is ready.</param>
/// <param name="outage">Tells that the database is away, once.</param>
/// <param name="idle">How long it waits when there was nothing to do, or the database was away.</param>
public abstract class StepWorker(DatabaseSetup setup, Outage outage, TimeSpan idle) : DatabaseWorker(setup)
{
    /// <summary>Does a step.</summary>
    /// <returns>Whether there may be more to do.</returns>
    protected abstract Task<bool> StepAsync(CancellationToken stopping);

    /// <summary>How long it rests after a step that took so long: as long again, unless said otherwise.</summary>
    protected virtual TimeSpan RestAfter(TimeSpan worked) => worked;

    protected sealed override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                long began = Stopwatch.GetTimestamp();
                bool more = await StepAsync(stopping);
                outage.End();
                await Task.Delay(more ? RestAfter(Stopwatch.GetElapsedTime(began)) : idle, stopping);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                outage.Begin(failure);
                await Task.Delay(idle, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }
}
