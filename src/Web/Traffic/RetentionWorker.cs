using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Deletes raw rows that had their time, a little at a time.</summary>
public sealed class RetentionWorker(DatabaseSetup setup, Retention retention, TimeProvider clock, ILogger<RetentionWorker> log)
    : StepWorker(setup, new Outage(log, "Raw rows that had their time are deleted later."), TimeSpan.FromMinutes(10))
{
    private static readonly TimeSpan Rest = TimeSpan.FromMilliseconds(500);

    protected override Task<bool> StepAsync(CancellationToken stopping) => retention.StepAsync(clock.GetUtcNow(), stopping);

    protected override TimeSpan RestAfter(TimeSpan worked) => Rest;
}
