namespace PreciseBeacon.Core.Reports;

/// <summary>Whole numbers of many visits, in as few bytes each as they take.</summary>
public sealed class NumberColumn
{
    private readonly byte[]? _small;
    private readonly ushort[]? _middle;
    private readonly int[]? _large;

    private NumberColumn(byte[]? small, ushort[]? middle, int[]? large)
    {
        _small = small;
        _middle = middle;
        _large = large;
    }

    /// <summary>The number of one visit.</summary>
    public int this[int visit] =>
        _small is not null ? _small[visit]
        : _middle is not null ? _middle[visit]
        : _large![visit];

    internal int Bytes => (_small?.Length ?? 0) + ((_middle?.Length ?? 0) * sizeof(ushort)) + ((_large?.Length ?? 0) * sizeof(int));

    /// <summary>Adds each visit's number to the sum of its row.</summary>
    /// <param name="rows">For each visit its row.</param>
    /// <param name="sums">The sums by row.</param>
    public void AddTo(ReadOnlySpan<int> rows, Span<long> sums)
    {
        // Three loops instead of one with a choice in it: this is run for every visit of a report.
        if (_small is { } small)
        {
            for (int i = 0; i < small.Length; i++)
            {
                sums[rows[i]] += small[i];
            }
        }
        else if (_middle is { } middle)
        {
            for (int i = 0; i < middle.Length; i++)
            {
                sums[rows[i]] += middle[i];
            }
        }
        else
        {
            for (int i = 0; i < _large!.Length; i++)
            {
                sums[rows[i]] += _large[i];
            }
        }
    }

    internal static NumberColumn Of<T>(IReadOnlyList<T> rows, Func<T, int> numberOf)
    {
        int[] numbers = [.. rows.Select(numberOf)];
        uint largest = numbers.Length == 0 ? 0 : numbers.Max(n => (uint)n); // a negative one takes all four bytes
        return largest <= byte.MaxValue ? new NumberColumn(Array.ConvertAll(numbers, n => (byte)n), null, null)
            : largest <= ushort.MaxValue ? new NumberColumn(null, Array.ConvertAll(numbers, n => (ushort)n), null)
            : new NumberColumn(null, null, numbers);
    }

    internal static NumberColumn Read(BinaryReader reader, int count) =>
        reader.ReadByte() switch
        {
            sizeof(byte) => new NumberColumn(Packed.Read<byte>(reader, count), null, null),
            sizeof(ushort) => new NumberColumn(null, Packed.Read<ushort>(reader, count), null),
            _ => new NumberColumn(null, null, Packed.Read<int>(reader, count)),
        };

    internal void Write(BinaryWriter writer)
    {
        if (_small is not null)
        {
            writer.Write((byte)sizeof(byte));
            Packed.Write<byte>(writer, _small);
        }
        else if (_middle is not null)
        {
            writer.Write((byte)sizeof(ushort));
            Packed.Write<ushort>(writer, _middle);
        }
        else
        {
            writer.Write((byte)sizeof(int));
            Packed.Write<int>(writer, _large!);
        }
    }
}
