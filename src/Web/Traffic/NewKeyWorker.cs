using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Looks raw events through for keys that a convention did not know before. Rests as long as it works.</summary>
public sealed class NewKeyWorker(DatabaseSetup setup, NewTagKeys keys, ILogger<NewKeyWorker> log)
    : StepWorker(setup, new Outage(log, "Past visits wait to be looked through for new keys."), TimeSpan.FromSeconds(5))
{
    protected override Task<bool> StepAsync(CancellationToken stopping) => keys.StepAsync(stopping);
}
