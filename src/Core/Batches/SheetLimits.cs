using System.Globalization;

namespace PreciseBeacon.Core.Batches;

/// <summary>How large a sheet may be. Rows are counted as they come, so that a sheet that is too large is refused early.</summary>
public static class SheetLimits
{
    public const int MostRows = 200_000;
    public const int MostColumns = 500;

    /// <summary>200,000 rows of 50 columns each.</summary>
    public const int MostCells = 10_000_000;

    /// <summary>Most characters of one cell.</summary>
    public const int LongestCell = 1 << 20;

    /// <summary>Lets rows through one by one and refuses the first that is too much.</summary>
    /// <param name="rows">Rows below the headings.</param>
    /// <param name="sheet">What the sheet is called in refusals, as the beginning of a sentence.</param>
    /// <exception cref="SheetException">There are too many rows, cells or columns, or a cell is too long.</exception>
    public static IEnumerable<IReadOnlyList<string>> Within(IEnumerable<IReadOnlyList<string>> rows, string sheet)
    {
        int count = 0;
        long cells = 0;
        foreach (var row in rows)
        {
            ThrowIfTooManyRows(++count, sheet);
            ThrowIfTooWide(row.Count, sheet);
            cells += row.Count;
            if (cells > MostCells)
            {
                throw new SheetException(
                    $"{sheet} has more than {Number(MostCells)} cells, which are reached in row {Number(count)}; split the file, or remove columns."
                );
            }

            for (int i = 0; i < row.Count; i++)
            {
                if (row[i].Length > LongestCell)
                {
                    throw new SheetException(
                        $"{sheet} has a cell of more than a million characters ({Number(LongestCell)}) in row {Number(count)}; shorten it."
                    );
                }
            }

            yield return row;
        }
    }

    /// <summary>Refuses a number of rows below the headings.</summary>
    /// <exception cref="SheetException">It is too large.</exception>
    public static void ThrowIfTooManyRows(int rows, string sheet)
    {
        if (rows > MostRows)
        {
            throw new SheetException(
                $"{sheet} has more than {Number(MostRows)} rows; split the file, and delete cells far below the last row."
            );
        }
    }

    /// <summary>Refuses a number of columns.</summary>
    /// <exception cref="SheetException">It is too large.</exception>
    public static void ThrowIfTooWide(int columns, string sheet)
    {
        if (columns > MostColumns)
        {
            throw new SheetException(
                $"{sheet} has more than {MostColumns} columns; delete those that are not needed, and cells far to the right of the last one."
            );
        }
    }

    private static string Number(int number) => number.ToString("N0", CultureInfo.InvariantCulture);
}
