using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Stores every few seconds where the towns lie that visitors came from.</summary>
public sealed class TownPointWorker(
    DatabaseSetup setup,
    TownPoints points,
    NpgsqlDataSource database,
    TimeProvider clock,
    ILogger<TownPointWorker> log
) : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(5);

    private readonly Outage _outage = new(log, "Where towns lie is not stored; they are learned again later.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                await points.StoreAsync(database, stopping);
                _outage.End();
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
            }
            catch (OperationCanceledException)
            {
                return;
            }

            await Task.Delay(Every, clock, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }
}
