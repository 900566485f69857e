using Npgsql;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Folds the totals of links every now and then, so that groups are summed from few rows.</summary>
public sealed class TotalsKeeper(DatabaseSetup setup, NpgsqlDataSource database, TimeProvider clock, ILogger<TotalsKeeper> log)
    : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(30);

    private readonly Outage _outage = new(log, "Totals of links are not folded; they stay right, only longer.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            await Task.Delay(Every, clock, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            try
            {
                await LinkTotals.FoldAsync(database, stopping);
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
        }
    }
}
