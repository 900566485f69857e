using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Refreshes the salts every few seconds, so that tomorrow's is there before midnight and yesterday's goes in time.</summary>
public sealed class SaltKeeper(DatabaseSetup setup, SaltBook salts, TimeProvider clock, ILogger<SaltKeeper> log) : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(20);

    private readonly Outage _outage = new(log, "Salts are not shared; visitors are told apart by this process alone.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                await salts.RefreshAsync(stopping);
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
