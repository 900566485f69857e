using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Links;

/// <summary>What came of reading a destination: either it is accepted, or the notices hold the reason.</summary>
public sealed record DestinationReading(Destination? Destination, IReadOnlyList<Notice> Notices);
