using System.Diagnostics;
using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Packs visits for reports in the background, once they have settled. Rests as long as it works.</summary>
public sealed class PackingWorker(DatabaseSetup setup, VisitSegmentBuilder builder, ILogger<PackingWorker> log) : DatabaseWorker(setup)
{
    /// <summary>An hour under way changes again and again; its visits are read as they are until then.</summary>
    private static readonly TimeSpan Settled = TimeSpan.FromSeconds(30);

    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(5);

    private readonly Outage _outage = new(log, "Visits wait to be packed; reports take longer.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                long began = Stopwatch.GetTimestamp();
                bool packed = await builder.PackAsync(Settled, stopping);
                _outage.End();
                await Task.Delay(packed ? Stopwatch.GetElapsedTime(began) : LookAgain, stopping);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
                await Task.Delay(LookAgain, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }
}
