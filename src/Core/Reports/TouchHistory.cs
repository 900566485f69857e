using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>
/// The visits of some visitors, in the order they happened. Most of ten million visits are of nobody who converted, so they are told by one
/// bit before they are looked up.
/// </summary>
public sealed class TouchHistory
{
    private const int BitsEach = 16;
    private const int MostBits = 1 << 26;
    private const int ByHand = 16;

    private readonly Dictionary<ulong, int> _numbers;
    private readonly ulong[] _bits;
    private readonly ulong _mask;
    private Touch[] _touches = [];
    private int[] _begins = [];

    /// <summary>Nothing collected yet.</summary>
    /// <param name="visitors">Whose visits are wanted, as <see cref="VisitColumns.Visitors"/> has them.</param>
    public TouchHistory(IEnumerable<ulong> visitors)
    {
        _numbers = [];
        foreach (ulong visitor in visitors)
        {
            _numbers.TryAdd(visitor, _numbers.Count);
        }

        int bits = 64;
        while (bits < MostBits && bits < (long)_numbers.Count * BitsEach)
        {
            bits *= 2;
        }

        _bits = new ulong[bits / 64];
        _mask = (ulong)bits - 1;
        foreach (ulong visitor in _numbers.Keys)
        {
            _bits[(visitor & _mask) / 64] |= 1UL << (int)(visitor & 63);
        }
    }

    /// <summary>How many visitors there are.</summary>
    public int Visitors => _numbers.Count;

    /// <summary>Collects the visits of one day that are of these visitors. Any number of threads may collect at once, each into a list of its own.</summary>
    /// <param name="visits">The visits.</param>
    /// <param name="day">Their day.</param>
    /// <param name="found">Where they are added.</param>
    public void Collect(VisitColumns visits, DateOnly day, List<(int Visitor, Touch Touch)> found)
    {
        var visitors = visits.Visitors;
        var sources = visits.IdsOf(RowTable.Source);
        for (int i = 0; i < visitors.Length; i++)
        {
            ulong visitor = visitors[i];
            if (((_bits[(visitor & _mask) / 64] >> (int)(visitor & 63)) & 1) != 0 && _numbers.TryGetValue(visitor, out int number))
            {
                found.Add((number, new Touch(visits.AtOf(i, day), sources[i])));
            }
        }
    }

    /// <summary>Puts in order what was collected.</summary>
    public void Put(IReadOnlyList<List<(int Visitor, Touch Touch)>> collected)
    {
        _begins = new int[_numbers.Count + 1];
        foreach (var some in collected)
        {
            foreach (var (visitor, _) in some)
            {
                _begins[visitor + 1]++;
            }
        }

        for (int i = 1; i < _begins.Length; i++)
        {
            _begins[i] += _begins[i - 1];
        }

        _touches = new Touch[_begins[^1]];
        int[] next = _begins[..^1];
        foreach (var some in collected)
        {
            foreach (var (visitor, touch) in some)
            {
                _touches[next[visitor]++] = touch;
            }
        }

        for (int i = 0; i < _numbers.Count; i++)
        {
            Order(_touches.AsSpan(_begins[i], _begins[i + 1] - _begins[i]));
        }
    }

    /// <summary>Nearly everybody has a handful of visits, which are put in order by hand.</summary>
    private static void Order(Span<Touch> touches)
    {
        if (touches.Length > ByHand)
        {
            touches.Sort(Touch.Compare);
            return;
        }

        for (int i = 1; i < touches.Length; i++)
        {
            var touch = touches[i];
            int at = i;
            for (; at > 0 && Touch.Compare(touches[at - 1], touch) > 0; at--)
            {
                touches[at] = touches[at - 1];
            }

            touches[at] = touch;
        }
    }

    /// <summary>The touches of a conversion in their order, the converting visit last.</summary>
    /// <param name="visitor">Its visitor.</param>
    /// <param name="own">The converting visit.</param>
    /// <param name="seconds">How long before it a touch may lie.</param>
    /// <param name="touches">Where they are written; the latest of them where there are more than it holds.</param>
    /// <returns>How many, at least 1.</returns>
    public int Before(ulong visitor, Touch own, long seconds, Span<Touch> touches)
    {
        var all = _numbers.TryGetValue(visitor, out int number)
            ? _touches.AsSpan(_begins[number], _begins[number + 1] - _begins[number])
            : [];
        int end = EndOf(all, own.At);
        int begin = end;
        while (begin > 0 && all[begin - 1].At >= own.At - seconds && end - begin <= touches.Length)
        {
            begin--;
        }

        int count = 0;
        bool left = false;
        for (int i = begin; i < end; i++)
        {
            if (!left && all[i] == own)
            {
                left = true;
                continue;
            }

            if (count == touches.Length - 1)
            {
                // More than there is room for: the earliest gives way.
                touches[1..count].CopyTo(touches);
                count--;
            }

            touches[count++] = all[i];
        }

        touches[count++] = own;
        return count;
    }

    /// <summary>The place after the last touch that began by then.</summary>
    private static int EndOf(ReadOnlySpan<Touch> touches, long at)
    {
        var (low, high) = (0, touches.Length);
        while (low < high)
        {
            int middle = (low + high) / 2;
            (low, high) = touches[middle].At <= at ? (middle + 1, high) : (low, middle);
        }

        return low;
    }
}
