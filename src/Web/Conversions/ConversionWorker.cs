using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Conversions;

/// <summary>Looks past visits through for what counts as a conversion now, or did before. Rests as long as it works.</summary>
public sealed class ConversionWorker(DatabaseSetup setup, DefinedConversions conversions, ILogger<ConversionWorker> log)
    : StepWorker(setup, new Outage(log, "Past visits wait to be looked through for conversions."), TimeSpan.FromSeconds(2))
{
    protected override Task<bool> StepAsync(CancellationToken stopping) => conversions.StepAsync(stopping);
}
