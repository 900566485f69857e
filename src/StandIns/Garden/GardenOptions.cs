namespace PreciseBeacon.StandIns.Garden;

/// <summary>How the garden's website is measured.</summary>
/// <param name="BeaconUrl">Where the measuring script comes from.</param>
/// <param name="MeasuringKey">The site's measuring key.</param>
/// <param name="OrchardKey">The measuring key of the orchard's own site.</param>
/// <param name="ReportKey">The key with which the shop's server reports orders.</param>
public sealed record GardenOptions(string BeaconUrl, string MeasuringKey, string OrchardKey, string ReportKey);
