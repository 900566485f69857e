namespace PreciseBeacon.Data.Spooling;

/// <summary>A place in a spool: the number of a segment and an offset in it.</summary>
public readonly record struct SpoolPosition(long Segment, long Offset);
