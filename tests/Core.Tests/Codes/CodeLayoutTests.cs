using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.CoreTests.Codes;

public sealed class CodeLayoutTests
{
    public static TheoryData<int> Versions => [.. Enumerable.Range(1, 40)];

    /// <summary>
    /// Every block of every version and level, taken out of a drawn code by our layout and table, is a word of the
    /// Reed-Solomon code over GF(256) with 0x11D (ISO/IEC 18004, 7.5): all its syndromes are zero. The codes are drawn by
    /// QRCoder, which knows nothing of either.
    /// </summary>
    [Theory]
    [MemberData(nameof(Versions))]
    public void Blocks_taken_out_of_a_drawn_code_are_whole(int version)
    {
        var layout = CodeLayout.Of(version);
        foreach (var level in Enum.GetValues<CorrectionLevel>())
        {
            var matrix = Filled(version, level);
            var blocks = CodeBlocks.Of(version, level);
            int[] blockOf = blocks.BlockOfEach();
            var words = Enumerable.Range(0, blocks.Count).Select(_ => new List<int>()).ToArray();
            int mask = MaskOf(matrix);
            int word = 0;
            foreach (
                var (bit, i) in layout
                    .InOrder()
                    .Take(layout.Codewords * 8)
                    .Select((m, i) => (At(matrix, m.Row, m.Column) ^ Masked(mask, m.Row, m.Column), i))
            )
            {
                word = (word << 1) | (bit ? 1 : 0);
                if (i % 8 == 7)
                {
                    words[blockOf[i / 8]].Add(word & 0xFF);
                }
            }

            Assert.All(words, w => Assert.All(Enumerable.Range(0, blocks.CorrectingEach), power => Assert.Equal(0, Syndrome(w, power))));
        }
    }

    /// <summary>Codewords of a version (ISO/IEC 18004, table 1; versions from memory).</summary>
    [Theory]
    [InlineData(1, 26)]
    [InlineData(2, 44)]
    [InlineData(7, 196)]
    [InlineData(14, 581)]
    [InlineData(32, 2_465)]
    [InlineData(40, 3_706)]
    public void Versions_hold_as_many_codewords_as_the_standard_says(int version, int codewords) =>
        Assert.Equal(codewords, CodeLayout.Of(version).Codewords);

    /// <summary>Errors a block can put right (ISO/IEC 18004, table 9: version 1 at each level, 2-L, 5-Q; from memory).</summary>
    [Theory]
    [InlineData(1, CorrectionLevel.L, 2)]
    [InlineData(1, CorrectionLevel.M, 4)]
    [InlineData(1, CorrectionLevel.Q, 6)]
    [InlineData(1, CorrectionLevel.H, 8)]
    [InlineData(2, CorrectionLevel.L, 4)]
    [InlineData(5, CorrectionLevel.Q, 9)]
    public void A_block_can_put_right_what_the_standard_says(int version, CorrectionLevel level, int repairable) =>
        Assert.Equal(repairable, CodeBlocks.Of(version, level).Repairable);

    /// <summary>A text of octets that needs just this version: found by halving.</summary>
    private static CodeMatrix Filled(int version, CorrectionLevel level)
    {
        var (low, high) = (1, 2_953);
        while (low < high)
        {
            int middle = (low + high) / 2;
            if (VersionOf(middle, level) < version)
            {
                low = middle + 1;
            }
            else
            {
                high = middle;
            }
        }

        var matrix = CodeMatrix.Of(Text(low), level);
        Assert.Equal(version, matrix.Version);
        return matrix;
    }

    private static int VersionOf(int octets, CorrectionLevel level)
    {
        try
        {
            return CodeMatrix.Of(Text(octets), level).Version;
        }
        catch (CodeTooLongException)
        {
            return 41;
        }
    }

    private static string Text(int octets) => string.Concat(Enumerable.Range(0, octets).Select(i => (char)('a' + (i * 7 % 26))));

    private static bool At(CodeMatrix matrix, int row, int column) => matrix[row + CodeMatrix.QuietZone, column + CodeMatrix.QuietZone];

    /// <summary>The mask's number stands in the format beside the first finder, itself masked by 101 there (ISO/IEC 18004, 7.9).</summary>
    private static int MaskOf(CodeMatrix matrix) =>
        Enumerable.Range(2, 3).Aggregate(0, (bits, column) => (bits << 1) | (At(matrix, 8, column) ? 1 : 0)) ^ 0b101;

    private static bool Masked(int mask, int row, int column) =>
        mask switch
        {
            0 => (row + column) % 2 == 0,
            1 => row % 2 == 0,
            2 => column % 3 == 0,
            3 => (row + column) % 3 == 0,
            4 => ((row / 2) + (column / 3)) % 2 == 0,
            5 => (row * column % 2) + (row * column % 3) == 0,
            6 => ((row * column % 2) + (row * column % 3)) % 2 == 0,
            _ => (((row + column) % 2) + (row * column % 3)) % 2 == 0,
        };

    private static int Syndrome(List<int> word, int power)
    {
        int root = 1;
        for (int i = 0; i < power; i++)
        {
            root = Times(root, 2);
        }

        return word.Aggregate(0, (sum, symbol) => Times(sum, root) ^ symbol);
    }

    private static int Times(int a, int b)
    {
        int product = 0;
        for (; b > 0; b >>= 1, a = (a << 1) ^ ((a & 0x80) != 0 ? 0x11D : 0))
        {
            product ^= (b & 1) * a;
        }

        return product & 0xFF;
    }
}
