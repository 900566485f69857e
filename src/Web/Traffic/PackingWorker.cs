using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Packs visits for reports in the background, once they have settled. Rests as long as it works.</summary>
public sealed class PackingWorker(DatabaseSetup setup, VisitSegmentBuilder builder, ILogger<PackingWorker> log)
    : StepWorker(setup, new Outage(log, "Visits wait to be packed; reports take longer."), TimeSpan.FromSeconds(5))
{
    /// <summary>An hour under way changes again and again; its visits are read as they are until then.</summary>
    private static readonly TimeSpan Settled = TimeSpan.FromSeconds(30);

    protected override Task<bool> StepAsync(CancellationToken stopping) => builder.PackAsync(Settled, stopping);
}
