using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Deletes raw rows that had their time, a little at a time.</summary>
public sealed class RetentionWorker(DatabaseSetup setup, Retention retention, TimeProvider clock, ILogger<RetentionWorker> log)
    : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan Rest = TimeSpan.FromMilliseconds(500);

    private readonly Outage _outage = new(log, "Raw rows that had their time are deleted later.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                bool more = await retention.StepAsync(clock.GetUtcNow(), stopping);
                _outage.End();
                await Task.Delay(more ? Rest : Every, stopping);
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
                await Task.Delay(Every, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }
}
