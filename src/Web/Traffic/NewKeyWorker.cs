using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Looks raw events through for keys that a convention did not know before.</summary>
public sealed class NewKeyWorker(DatabaseSetup setup, NewTagKeys keys, ILogger<NewKeyWorker> log) : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan Rest = TimeSpan.FromMilliseconds(100);

    private readonly Outage _outage = new(log, "Past visits wait to be looked through for new keys.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                bool more = await keys.StepAsync(stopping);
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
