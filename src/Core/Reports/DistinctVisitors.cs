using System.Runtime.InteropServices;

namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Counts distinct visitors, of all visits and of each row, exactly but for this: visitors are told apart by 64 bits, so that among ten
/// million of them two are taken for one with a chance of one in 400,000 (the birthday bound, n² / 2⁶⁵). Several threads count at once,
/// each with a <see cref="Counter"/> of its own.
/// </summary>
public sealed class DistinctVisitors
{
    // So many sets that one fits a processor's cache while it is added to.
    private const int Parts = 256;
    private const int PartShift = 56;
    private const int Buffered = 512;

    private readonly Part[] _parts = [.. Enumerable.Range(0, Parts).Select(_ => new Part())];

    /// <summary>Distinct visitors of everything that was added and flushed.</summary>
    public long Count => _parts.Sum(p => (long)p.Visitors.Count);

    /// <summary>64 bits for a visitor, evenly spread.</summary>
    public static ulong Short(Guid visitor)
    {
        var halves = MemoryMarshal.Cast<Guid, ulong>(new ReadOnlySpan<Guid>(in visitor));
        return Mix(halves[0] ^ Mix(halves[1]));
    }

    /// <summary>Spreads bits; one to one (the finaliser of SplitMix64: Steele, Lea, Flood 2014).</summary>
    internal static ulong Mix(ulong bits)
    {
        bits = (bits ^ (bits >> 30)) * 0xBF58476D1CE4E5B9;
        bits = (bits ^ (bits >> 27)) * 0x94D049BB133111EB;
        return bits ^ (bits >> 31);
    }

    /// <summary>What one thread counts.</summary>
    /// <param name="all">What it counts into.</param>
    public sealed class Counter(DistinctVisitors all)
    {
        private readonly (ulong Visitor, ulong Pair, int Row)[][] _buffers =
        [
            .. Enumerable.Range(0, Parts).Select(_ => new (ulong, ulong, int)[Buffered]),
        ];

        private readonly int[] _filled = new int[Parts];
        private long[] _counts = new long[64];

        /// <summary>Distinct visitors of a row that this counter was the first to add; those of all counters add up.</summary>
        public long CountOf(int row) => row < _counts.Length ? _counts[row] : 0;

        /// <summary>Adds a visit.</summary>
        /// <param name="visitor">See <see cref="Short"/>.</param>
        /// <param name="rowKey">What tells the row from others, the same in all threads and spread by <see cref="Mix"/>.</param>
        /// <param name="row">The row's number in this thread.</param>
        public void Add(ulong visitor, ulong rowKey, int row)
        {
            int part = (int)(visitor >> PartShift);
            int at = _filled[part];
            _buffers[part][at] = (visitor, Mix(visitor ^ rowKey), row);
            _filled[part] = at + 1;
            if (at + 1 == Buffered)
            {
                Flush(part);
            }
        }

        /// <summary>Counts what was added last. Needed before reading.</summary>
        public void Flush()
        {
            for (int part = 0; part < Parts; part++)
            {
                Flush(part);
            }
        }

        private void Flush(int part)
        {
            var sets = all._parts[part];
            lock (sets)
            {
                foreach (var (visitor, pair, row) in _buffers[part].AsSpan(0, _filled[part]))
                {
                    sets.Visitors.Add(visitor);
                    if (sets.Pairs.Add(pair))
                    {
                        if (row >= _counts.Length)
                        {
                            Array.Resize(ref _counts, Math.Max(row + 1, 2 * _counts.Length));
                        }

                        _counts[row]++;
                    }
                }
            }

            _filled[part] = 0;
        }
    }

    private sealed class Part
    {
        public NumberSet Visitors { get; } = new();

        public NumberSet Pairs { get; } = new();
    }

    /// <summary>A set of numbers that are spread evenly already: open addressing, one step at a time (Knuth, vol. 3, 6.4, algorithm L).</summary>
    private sealed class NumberSet
    {
        private ulong[] _slots = new ulong[64];
        private bool _hasZero;
        private int _used;

        public int Count => _used + (_hasZero ? 1 : 0);

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

            if (++_used * 5 > _slots.Length * 3)
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
