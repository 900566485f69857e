namespace PreciseBeacon.StandIns.Garden;

/// <summary>How the garden's website is measured.</summary>
/// <param name="BeaconUrl">Where the measuring script comes from.</param>
/// <param name="MeasuringKey">The site's measuring key.</param>
public sealed record GardenOptions(string BeaconUrl, string MeasuringKey);
