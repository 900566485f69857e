namespace PreciseBeacon.Core.Codes;

/// <summary>How a version's codewords are shared out to blocks that are corrected each on their own (ISO/IEC 18004, table 9).</summary>
public sealed class CodeBlocks
{
    private static readonly string[] Correcting =
    [
        "7,10,15,20,26,18,20,24,30,18,20,24,26,30,22,24,28,30,28,28,28,28,30,30,26,28,30,30,30,30,30,30,30,30,30,30,30,30,30,30",
        "10,16,26,18,24,16,18,22,22,26,30,22,22,24,24,28,28,26,26,26,26,28,28,28,28,28,28,28,28,28,28,28,28,28,28,28,28,28,28,28",
        "13,22,18,26,18,24,18,22,20,24,28,26,24,20,30,24,28,28,26,30,28,30,30,30,30,28,30,30,30,30,30,30,30,30,30,30,30,30,30,30",
        "17,28,22,16,22,28,26,26,24,28,24,28,22,24,24,30,28,28,26,28,30,24,30,30,30,30,30,30,30,30,30,30,30,30,30,30,30,30,30,30",
    ];

    private static readonly string[] Counts =
    [
        "1,1,1,1,1,2,2,2,2,4,4,4,4,4,6,6,6,6,7,8,8,9,9,10,12,12,12,13,14,15,16,17,18,19,19,20,21,22,24,25",
        "1,1,1,2,2,4,4,4,5,5,5,8,9,9,10,10,11,13,14,16,17,17,18,20,21,23,25,26,28,29,31,33,35,37,38,40,43,45,47,49",
        "1,1,2,2,4,4,6,6,8,8,8,10,12,16,12,17,16,18,21,20,23,23,25,27,29,34,34,35,38,40,43,45,48,51,53,56,59,62,65,68",
        "1,1,2,4,4,4,5,6,8,8,11,11,16,16,18,16,19,21,25,25,25,34,30,32,35,37,40,42,45,48,51,54,57,60,63,66,70,74,77,81",
    ];

    private readonly int _total;

    private CodeBlocks(int version, CorrectionLevel level, int total)
    {
        _total = total;
        Count = int.Parse(Counts[(int)level].Split(',')[version - 1], System.Globalization.CultureInfo.InvariantCulture);
        CorrectingEach = int.Parse(Correcting[(int)level].Split(',')[version - 1], System.Globalization.CultureInfo.InvariantCulture);

        // Some small codes keep correction codewords back, so that a wrong reading is noticed (table 9, note).
        int keptBack = (version, level) switch
        {
            (1, CorrectionLevel.L) => 3,
            (1, CorrectionLevel.M) or (2, CorrectionLevel.L) => 2,
            (1, _) or (3, CorrectionLevel.L) => 1,
            _ => 0,
        };
        Repairable = (CorrectingEach - keptBack) / 2;
    }

    /// <summary>How many blocks there are.</summary>
    public int Count { get; }

    /// <summary>Codewords for correction in each block.</summary>
    public int CorrectingEach { get; }

    /// <summary>Wrong codewords each block can put right.</summary>
    public int Repairable { get; }

    /// <param name="version">1 to 40.</param>
    /// <param name="level">The correction level.</param>
    public static CodeBlocks Of(int version, CorrectionLevel level) => new(version, level, CodeLayout.Of(version).Codewords);

    /// <summary>The block each codeword belongs to, in the order codewords are placed (ISO/IEC 18004, 7.6).</summary>
    public int[] BlockOfEach()
    {
        int data = _total - (Count * CorrectingEach);
        int shortData = data / Count;
        int longBlocks = data % Count;
        var blocks = new int[_total];
        for (int i = 0; i < _total; i++)
        {
            blocks[i] =
                i < shortData * Count ? i % Count
                : i < data ? Count - longBlocks + (i - (shortData * Count))
                : (i - data) % Count;
        }

        return blocks;
    }
}
