namespace PreciseBeacon.Core.Credit;

/// <summary>A visit before a conversion, or the converting one itself.</summary>
/// <param name="At">When it began, in seconds since 0001-01-01 00:00 UTC.</param>
/// <param name="SourceId">The traffic source it came from.</param>
public readonly record struct Touch(long At, int SourceId)
{
    /// <summary>In the order they happened; at the same second by source, so that it is always the same order.</summary>
    public static int Compare(Touch one, Touch other) =>
        one.At != other.At ? one.At.CompareTo(other.At) : one.SourceId.CompareTo(other.SourceId);
}
