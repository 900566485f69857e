using System.Collections.Concurrent;

namespace PreciseBeacon.Core.Codes;

/// <summary>Which modules of a version carry which codeword (ISO/IEC 18004, 7.7.3), without the quiet zone.</summary>
public sealed class CodeLayout
{
    /// <summary>A module of a finder, separator, timing, alignment, format or version pattern.</summary>
    public const int Pattern = -1;

    /// <summary>A module left over behind the last codeword.</summary>
    public const int Remainder = -2;

    private const int BitsPerCodeword = 8;
    private const int TimingAt = 6;
    private const int FirstWithVersion = 7;

    private static readonly ConcurrentDictionary<int, CodeLayout> Known = new();

    private readonly int[] _codewords;

    private CodeLayout(int version)
    {
        Size = 17 + (4 * version);
        _codewords = new int[Size * Size];
        Array.Fill(_codewords, Remainder);
        Patterns(version);
        Codewords = Place();
    }

    /// <summary>Modules on a side, quiet zone left out.</summary>
    public int Size { get; }

    /// <summary>How many codewords the version holds, those for correction included.</summary>
    public int Codewords { get; }

    /// <summary>The codeword a module belongs to, from 0 in the order they are placed; <see cref="Pattern"/> or <see cref="Remainder"/> for none.</summary>
    public int this[int row, int column] => _codewords[(row * Size) + column];

    /// <param name="version">1 to 40.</param>
    public static CodeLayout Of(int version) => Known.GetOrAdd(version, static v => new CodeLayout(v));

    /// <summary>Modules in the order their bits are placed, most significant first.</summary>
    public IEnumerable<(int Row, int Column)> InOrder()
    {
        bool up = true;
        for (int right = Size - 1; right > 0; right -= 2)
        {
            // The upright timing pattern is stepped over.
            right = right == TimingAt ? right - 1 : right;
            for (int step = 0; step < Size; step++)
            {
                int row = up ? Size - 1 - step : step;
                for (int column = right; column >= right - 1; column--)
                {
                    if (this[row, column] != Pattern)
                    {
                        yield return (row, column);
                    }
                }
            }

            up = !up;
        }
    }

    private int Place()
    {
        var order = InOrder().ToList();
        int whole = order.Count / BitsPerCodeword;
        for (int i = 0; i < whole * BitsPerCodeword; i++)
        {
            _codewords[(order[i].Row * Size) + order[i].Column] = i / BitsPerCodeword;
        }

        return whole;
    }

    private void Patterns(int version)
    {
        // Finders with their separators and the format beside them.
        Take(0, 0, 9, 9);
        Take(0, Size - 8, 9, 8);
        Take(Size - 8, 0, 8, 9);
        Take(TimingAt, 0, 1, Size);
        Take(0, TimingAt, Size, 1);
        if (version >= FirstWithVersion)
        {
            Take(0, Size - 11, 6, 3);
            Take(Size - 11, 0, 3, 6);
        }

        var centres = AlignmentCentres(version);
        foreach (int row in centres)
        {
            foreach (int column in centres)
            {
                bool onFinder =
                    (row == TimingAt && (column == TimingAt || column == centres[^1])) || (row == centres[^1] && column == TimingAt);
                if (!onFinder)
                {
                    Take(row - 2, column - 2, 5, 5);
                }
            }
        }
    }

    private void Take(int row, int column, int height, int width)
    {
        for (int r = row; r < row + height; r++)
        {
            Array.Fill(_codewords, Pattern, (r * Size) + column, width);
        }
    }

    /// <summary>Rows and columns of the alignment patterns' centres (ISO/IEC 18004, annex E).</summary>
    private int[] AlignmentCentres(int version)
    {
        if (version == 1)
        {
            return [];
        }

        int count = (version / 7) + 2;
        int step = (((version * 8) + (count * 3) + 5) / ((count * 4) - 4)) * 2;
        return [TimingAt, .. Enumerable.Range(0, count - 1).Select(i => Size - 7 - (step * (count - 2 - i)))];
    }
}
