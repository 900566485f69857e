using Npgsql;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Refreshes the salts every few seconds, so that tomorrow's is there before midnight and yesterday's goes in time.</summary>
public sealed partial class SaltKeeper(SaltBook salts, TimeProvider clock, ILogger<SaltKeeper> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(20);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await salts.RefreshAsync(stoppingToken);
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                LogWaiting(failure.Message);
            }
            catch (OperationCanceledException)
            {
                return;
            }

            await Task.Delay(Every, clock, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    [LoggerMessage(LogLevel.Warning, "Salts can't be shared right now: {Reason}. Visitors are told apart by this process alone until then.")]
    private partial void LogWaiting(string reason);
}
