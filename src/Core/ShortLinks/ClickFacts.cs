using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What is known of a click, to be filled into the address it is sent to.</summary>
/// <param name="Slug">The slug that was asked for.</param>
/// <param name="Day">The day it is where the workspace is.</param>
/// <param name="Device">See <see cref="Traffic.Device"/>.</param>
/// <param name="Country">ISO 3166-1 alpha-2 in capitals; empty where it is not known.</param>
/// <param name="Referrer">Host the click came from; empty for none.</param>
public sealed record ClickFacts(string Slug, DateOnly Day, string Device, string Country, string Referrer);
