using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Spooling;

/// <summary>Raw events on their way into the database.</summary>
public sealed class RawEvents
{
    public List<RawHit> Hits { get; } = [];

    public List<RawPageEvent> PageEvents { get; } = [];

    public int Count => Hits.Count + PageEvents.Count;
}
