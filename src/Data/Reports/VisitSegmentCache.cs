using System.Collections.Concurrent;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Segments of visits held in memory, by their ids. A segment is never changed, so one that is held is right; whether it is still in use
/// the database says. Those longest not asked for give way.
/// </summary>
public sealed class VisitSegmentCache
{
    private const long Most = 1L << 30;
    private const double KeptWhenFull = 0.9;

    private readonly ConcurrentDictionary<long, Held> _held = new();
    private readonly long _mostBytes;
    private long _bytes;
    private long _asked;

    /// <summary>An eighth of this machine's memory, at most 1 GiB: some 35 million visits.</summary>
    public VisitSegmentCache()
        : this(Math.Min(Most, GC.GetGCMemoryInfo().TotalAvailableMemoryBytes / 8)) { }

    /// <summary>Holds so many bytes at most.</summary>
    public VisitSegmentCache(long mostBytes) => _mostBytes = mostBytes;

    /// <summary>How many bytes are held.</summary>
    public long Bytes => Interlocked.Read(ref _bytes);

    /// <summary>A segment, where it is held.</summary>
    public VisitColumns? Find(long id)
    {
        if (!_held.TryGetValue(id, out var held))
        {
            return null;
        }

        held.Asked = Interlocked.Increment(ref _asked);
        return held.Visits;
    }

    /// <summary>Holds a segment, and lets others go where there are too many.</summary>
    public void Add(long id, VisitColumns visits)
    {
        if (!_held.TryAdd(id, new Held(visits) { Asked = Interlocked.Increment(ref _asked) }))
        {
            return;
        }

        if (Interlocked.Add(ref _bytes, visits.Bytes) > _mostBytes)
        {
            LetGo();
        }
    }

    private void LetGo()
    {
        lock (_held)
        {
            foreach (var (id, _) in _held.ToArray().OrderBy(h => h.Value.Asked))
            {
                if (Bytes <= _mostBytes * KeptWhenFull)
                {
                    return;
                }

                if (_held.TryRemove(id, out var gone))
                {
                    Interlocked.Add(ref _bytes, -gone.Visits.Bytes);
                }
            }
        }
    }

    private sealed class Held(VisitColumns visits)
    {
        public VisitColumns Visits { get; } = visits;

        public long Asked { get; set; }
    }
}
