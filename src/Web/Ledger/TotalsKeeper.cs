using Npgsql;
using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Folds the totals of links every now and then, so that groups are summed from few rows.</summary>
public sealed partial class TotalsKeeper(NpgsqlDataSource database, TimeProvider clock, ILogger<TotalsKeeper> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(30);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(Every, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            try
            {
                await LinkTotals.FoldAsync(database, stoppingToken);
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                LogWaiting(failure.Message);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    [LoggerMessage(LogLevel.Warning, "Totals of links can't be folded right now: {Reason}. They stay right, only longer.")]
    private partial void LogWaiting(string reason);
}
