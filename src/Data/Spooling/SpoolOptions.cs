namespace PreciseBeacon.Data.Spooling;

/// <summary>Size of a spool.</summary>
/// <param name="SegmentLength">Octets of one segment.</param>
/// <param name="MostSegments">Segments that may wait to be moved; beyond that the spool is full.</param>
public sealed record SpoolOptions(long SegmentLength = 16 << 20, int MostSegments = 64);
