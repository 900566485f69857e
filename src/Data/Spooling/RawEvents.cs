using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Spooling;

/// <summary>Raw events on their way into the database.</summary>
public sealed class RawEvents
{
    public List<RawHit> Hits { get; } = [];

    public List<RawPageEvent> PageEvents { get; } = [];

    public int Count => Hits.Count + PageEvents.Count;

    /// <summary>The same events, each alone.</summary>
    public IEnumerable<RawEvents> Singly()
    {
        foreach (var hit in Hits)
        {
            yield return new RawEvents { Hits = { hit } };
        }

        foreach (var item in PageEvents)
        {
            yield return new RawEvents { PageEvents = { item } };
        }
    }
}
