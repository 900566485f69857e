namespace PreciseBeacon.Core.Codes;

/// <summary>Where a logo lies on a code and what it costs.</summary>
/// <param name="Row">Its first row, quiet zone included.</param>
/// <param name="Column">Its first column, quiet zone included.</param>
/// <param name="Side">Modules on a side.</param>
/// <param name="Lost">Codewords lost in the block that loses most.</param>
/// <param name="Repairable">Codewords that block can put right.</param>
public sealed record LogoPlace(int Row, int Column, int Side, int Lost, int Repairable)
{
    /// <summary>True where a module lies under the logo.</summary>
    public bool Covers(int row, int column) => row >= Row && row < Row + Side && column >= Column && column < Column + Side;

    /// <summary>
    /// The place nearest to the middle that touches no pattern a reader needs. Every codeword it touches counts as lost,
    /// though a module may happen to be right.
    /// </summary>
    /// <param name="version">1 to 40.</param>
    /// <param name="level">The correction level.</param>
    /// <param name="share">The logo's side as a part of the code's, quiet zone left out.</param>
    /// <returns>Null when no place is clear of patterns.</returns>
    public static LogoPlace? Of(int version, CorrectionLevel level, decimal share)
    {
        var layout = CodeLayout.Of(version);

        // An odd number of modules lies in the middle of a code, which has an odd number too.
        int side = Math.Clamp(((int)Math.Round(layout.Size * share) / 2 * 2) + 1, 3, layout.Size);
        int middle = (layout.Size - side) / 2;
        (int row, int column) = Enumerable
            .Range(0, layout.Size - side + 1)
            .SelectMany(r => Enumerable.Range(0, layout.Size - side + 1).Select(c => (Row: r, Column: c)))
            .OrderBy(p => Square(p.Row - middle) + Square(p.Column - middle))
            .FirstOrDefault(p => IsClear(layout, p.Row, p.Column, side), (Row: -1, Column: -1));
        if (row < 0)
        {
            return null;
        }

        var blocks = CodeBlocks.Of(version, level);
        int[] blockOf = blocks.BlockOfEach();
        int lost = Modules(row, column, side)
            .Select(m => layout[m.Row, m.Column])
            .Where(c => c >= 0)
            .Distinct()
            .CountBy(c => blockOf[c])
            .Select(b => b.Value)
            .DefaultIfEmpty()
            .Max();
        return new LogoPlace(row + CodeMatrix.QuietZone, column + CodeMatrix.QuietZone, side, lost, blocks.Repairable);
    }

    private static bool IsClear(CodeLayout layout, int row, int column, int side) =>
        Modules(row, column, side).All(m => layout[m.Row, m.Column] != CodeLayout.Pattern);

    private static IEnumerable<(int Row, int Column)> Modules(int row, int column, int side) =>
        Enumerable.Range(row, side).SelectMany(r => Enumerable.Range(column, side).Select(c => (r, c)));

    private static int Square(int number) => number * number;
}
