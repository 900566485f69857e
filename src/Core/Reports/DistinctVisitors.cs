using System.Buffers;
using System.Runtime.InteropServices;

namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Gathers which visitors are in which rows of a report, and counts the distinct ones, of all rows together and of each: exactly but for
/// this, that visitors are told apart by 64 bits, so that among ten million of them two are taken for one with a chance of one in 400,000
/// (the birthday bound, n² / 2⁶⁵). For one thread; what several gathered is counted together.
/// </summary>
public sealed class DistinctVisitors : IDisposable
{
    // Visitors are gathered in so many parts that those of one fit a processor's cache when they are counted.
    private const int Parts = 256;
    private const int PartShift = 56;
    private const int ChunkLength = 4_096;

    /// <summary>Beyond so many, 200 MB of them, what is there twice is thrown away first.</summary>
    private const long MostGathered = 16_000_000;

    private readonly List<(ulong[] Visitors, int[] Rows)>[] _chunks =
    [
        .. Enumerable.Range(0, Parts).Select(_ => new List<(ulong[], int[])>()),
    ];
    private readonly int[] _used = new int[Parts];
    private readonly long _most;
    private long _gathered;
    private long _thinned;

    /// <summary>Nothing gathered yet.</summary>
    public DistinctVisitors()
        : this(MostGathered) { }

    /// <summary>The same, thinning out what is gathered beyond so many.</summary>
    public DistinctVisitors(long mostGathered) => _most = mostGathered;

    /// <summary>How many pairs of a visitor and a row are held.</summary>
    public long Gathered => _gathered;

    /// <summary>64 bits for a visitor, evenly spread.</summary>
    public static ulong Short(Guid visitor)
    {
        var halves = MemoryMarshal.Cast<Guid, ulong>(new ReadOnlySpan<Guid>(in visitor));
        return Mix(halves[0] ^ Mix(halves[1]));
    }

    /// <summary>Adds a visit.</summary>
    /// <param name="visitor">See <see cref="Short"/>.</param>
    /// <param name="row">The number of its row.</param>
    public void Add(ulong visitor, int row)
    {
        int part = (int)(visitor >> PartShift);
        if (_used[part] == 0)
        {
            MakeRoom(part);
        }

        int used = _used[part];
        var (visitors, rows) = _chunks[part][^1];
        visitors[used] = visitor;
        rows[used] = row;
        _used[part] = used + 1 == ChunkLength ? 0 : used + 1;
    }

    /// <summary>Counts what several gathered.</summary>
    /// <param name="gathered">Each with what its numbers of rows are in <paramref name="byRow"/>.</param>
    /// <param name="byRow">Gets the distinct visitors of each row.</param>
    /// <returns>The distinct visitors of all rows together.</returns>
    public static long Count(IReadOnlyList<(DistinctVisitors Visitors, int[] RowOf)> gathered, long[] byRow)
    {
        long all = 0;
        Parallel.For(
            0,
            Parts,
            () => (All: 0L, ByRow: new Dictionary<int, long>(), Visitors: new NumberSet(), Pairs: new NumberSet()),
            (part, state, counted) =>
            {
                counted.Visitors.Clear();
                counted.Pairs.Clear();
                foreach (var (visitors, rowOf) in gathered)
                {
                    visitors.Each(part, (visitor, itsRow) =>
                    {
                        int row = rowOf[itsRow];
                        counted.Visitors.Add(visitor);
                        if (counted.Pairs.Add(Paired(visitor, row)))
                        {
                            CollectionsMarshal.GetValueRefOrAddDefault(counted.ByRow, row, out _)++;
                        }
                    });
                }

                counted.All += counted.Visitors.Count;
                return counted;
            },
            counted =>
            {
                lock (byRow)
                {
                    all += counted.All;
                    foreach (var (row, count) in counted.ByRow)
                    {
                        byRow[row] += count;
                    }
                }
            }
        );
        return all;
    }

    /// <summary>Gives the memory back.</summary>
    public void Dispose()
    {
        foreach (var (visitors, rows) in _chunks.SelectMany(c => c))
        {
            GiveBack(visitors, rows);
        }

        foreach (var chunks in _chunks)
        {
            chunks.Clear();
        }
    }

    /// <summary>Spreads bits; one to one (the finaliser of SplitMix64: Steele, Lea, Flood 2014).</summary>
    private static ulong Mix(ulong bits)
    {
        bits = (bits ^ (bits >> 30)) * 0xBF58476D1CE4E5B9;
        bits = (bits ^ (bits >> 27)) * 0x94D049BB133111EB;
        return bits ^ (bits >> 31);
    }

    private static ulong Paired(ulong visitor, int row) => Mix(visitor ^ ((ulong)(uint)row << 32 | (uint)row));

    private void MakeRoom(int part)
    {
        if (_gathered >= Math.Max(_most, 2 * _thinned))
        {
            Thin();
        }

        if (_used[part] == 0)
        {
            _chunks[part].Add(NewChunk());
        }
    }

    private (ulong[] Visitors, int[] Rows) NewChunk()
    {
        _gathered += ChunkLength;
        return (ArrayPool<ulong>.Shared.Rent(ChunkLength), ArrayPool<int>.Shared.Rent(ChunkLength));
    }

    /// <summary>Throws away what is there twice.</summary>
    private void Thin()
    {
        var pairs = new NumberSet();
        _gathered = 0;
        for (int part = 0; part < Parts; part++)
        {
            pairs.Clear();
            var kept = new List<(ulong[] Visitors, int[] Rows)>();
            int used = 0;
            Each(part, (visitor, row) =>
            {
                if (pairs.Add(Paired(visitor, row)))
                {
                    if (used == 0)
                    {
                        kept.Add(NewChunk());
                    }

                    kept[^1].Visitors[used] = visitor;
                    kept[^1].Rows[used] = row;
                    used = used + 1 == ChunkLength ? 0 : used + 1;
                }
            });
            foreach (var (visitors, rows) in _chunks[part])
            {
                GiveBack(visitors, rows);
            }

            _chunks[part].Clear();
            _chunks[part].AddRange(kept);
            _used[part] = used;
        }

        _thinned = _gathered;
    }

    private void Each(int part, Action<ulong, int> take)
    {
        for (int c = 0; c < _chunks[part].Count; c++)
        {
            var (visitors, rows) = _chunks[part][c];
            bool isLast = c == _chunks[part].Count - 1;
            int length = isLast && _used[part] > 0 ? _used[part] : ChunkLength;
            for (int i = 0; i < length; i++)
            {
                take(visitors[i], rows[i]);
            }
        }
    }

    private static void GiveBack(ulong[] visitors, int[] rows)
    {
        ArrayPool<ulong>.Shared.Return(visitors);
        ArrayPool<int>.Shared.Return(rows);
    }

    /// <summary>A set of numbers that are spread evenly already: open addressing, one step at a time (Knuth, vol. 3, 6.4, algorithm L).</summary>
    private sealed class NumberSet
    {
        private ulong[] _slots = new ulong[1 << 12];
        private bool _hasZero;
        private int _used;

        public int Count => _used + (_hasZero ? 1 : 0);

        public void Clear()
        {
            Array.Clear(_slots);
            _used = 0;
            _hasZero = false;
        }

        public bool Add(ulong number)
        {
            if (number == 0)
            {
                bool isNew = !_hasZero;
                _hasZero = true;
                return isNew;
            }

            if (!Put(_slots, number))
            {
                return false;
            }

            if (++_used * 5L > _slots.Length * 3L)
            {
                ulong[] wider = new ulong[2 * _slots.Length];
                foreach (ulong known in _slots)
                {
                    if (known != 0)
                    {
                        Put(wider, known);
                    }
                }

                _slots = wider;
            }

            return true;
        }

        private static bool Put(ulong[] slots, ulong number)
        {
            int mask = slots.Length - 1;
            int at = (int)number & mask;
            while (slots[at] != 0)
            {
                if (slots[at] == number)
                {
                    return false;
                }

                at = (at + 1) & mask;
            }

            slots[at] = number;
            return true;
        }
    }
}
