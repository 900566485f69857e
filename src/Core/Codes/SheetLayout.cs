namespace PreciseBeacon.Core.Codes;

/// <summary>How many codes lie on a sheet of paper, and where. All lengths in millimetres.</summary>
/// <param name="PageWidth">Width of the paper.</param>
/// <param name="PageHeight">Height of the paper.</param>
/// <param name="Columns">Labels across, at least 1.</param>
/// <param name="Rows">Labels down, at least 1.</param>
/// <param name="Width">Width of a label.</param>
/// <param name="Height">Height of a label.</param>
/// <param name="Left">From the paper's left edge to the first label.</param>
/// <param name="Top">From the paper's upper edge to the first label.</param>
/// <param name="GapAcross">Between two labels beside each other.</param>
/// <param name="GapDown">Between two labels below each other.</param>
public sealed record SheetLayout(
    decimal PageWidth,
    decimal PageHeight,
    int Columns,
    int Rows,
    decimal Width,
    decimal Height,
    decimal Left,
    decimal Top,
    decimal GapAcross = 0,
    decimal GapDown = 0
)
{
    /// <summary>ISO 216.</summary>
    public const decimal A4Width = 210;

    /// <summary>ISO 216.</summary>
    public const decimal A4Height = 297;

    /// <summary>Paper a common printer leaves white at every edge (common practice).</summary>
    private const decimal Edge = 8;

    public int PerPage => Columns * Rows;

    /// <summary>As many cut-out labels of a size as an A4 sheet holds, in its middle.</summary>
    public static SheetLayout OnA4(decimal width, decimal height, decimal gap)
    {
        int columns = Math.Max(1, (int)((A4Width - (2 * Edge) + gap) / (width + gap)));
        int rows = Math.Max(1, (int)((A4Height - (2 * Edge) + gap) / (height + gap)));
        return new SheetLayout(
            A4Width,
            A4Height,
            columns,
            rows,
            width,
            height,
            (A4Width - (columns * width) - ((columns - 1) * gap)) / 2,
            (A4Height - (rows * height) - ((rows - 1) * gap)) / 2,
            gap,
            gap
        );
    }

    /// <summary>An A4 sheet divided into equal labels from edge to edge, as sheets of labels are sold.</summary>
    public static SheetLayout Divided(int columns, int rows) =>
        new(A4Width, A4Height, columns, rows, A4Width / columns, A4Height / rows, 0, 0);

    /// <summary>Where a label lies.</summary>
    /// <param name="number">From 0, over all pages.</param>
    public (int Page, decimal Left, decimal Top) PlaceOf(int number)
    {
        int onPage = number % PerPage;
        return (number / PerPage, Left + (onPage % Columns * (Width + GapAcross)), Top + (onPage / Columns * (Height + GapDown)));
    }

    /// <summary>Why no sheet can be printed so; null when it can.</summary>
    public string? WhyRefused() =>
        PageWidth is < 20 or > 2_000 || PageHeight is < 20 or > 2_000 ? "The paper is 20 to 2,000 mm wide and high."
        : Columns is < 1 or > 100 || Rows is < 1 or > 100 ? "A sheet has 1 to 100 labels across and down."
        : Width < 10 || Height < 10 ? "A label is at least 10 mm wide and high."
        : Left < 0 || Top < 0 || GapAcross < 0 || GapDown < 0 ? "Margins and gaps can’t be negative."
        : Left + (Columns * Width) + ((Columns - 1) * GapAcross) > PageWidth + 0.01m
            ? "The labels are wider than the paper; use fewer across or narrower ones."
        : Top + (Rows * Height) + ((Rows - 1) * GapDown) > PageHeight + 0.01m
            ? "The labels are higher than the paper; use fewer down or lower ones."
        : null;
}
