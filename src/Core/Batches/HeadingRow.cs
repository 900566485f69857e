namespace PreciseBeacon.Core.Batches;

/// <summary>Finds the row of headings: exports of ad accounts begin with a line or two of what they are about (common practice).</summary>
public static class HeadingRow
{
    /// <summary>Rows that are looked at.</summary>
    public const int Looked = 30;

    /// <summary>Part of a table's widest row that its headings fill at least.</summary>
    private const double FilledAtLeast = 0.5;

    /// <summary>The row of the headings, counted from 1: the first that names most of the columns the rows after it fill, each with a name of its own.</summary>
    /// <param name="rows">The first rows of a sheet, from its first one.</param>
    public static int Of(IReadOnlyList<IReadOnlyList<string>> rows)
    {
        int most = rows.Count == 0 ? 0 : rows.Max(Filled);
        if (most < 2)
        {
            return 1;
        }

        for (int i = 0; i < rows.Count; i++)
        {
            int filled = Filled(rows[i]);
            bool named =
                rows[i].Select(c => c.Trim()).Where(c => c.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).Count() == filled;
            if (filled >= Math.Max(2, most * FilledAtLeast) && (named || i == 0))
            {
                return i + 1;
            }
        }

        return 1;
    }

    private static int Filled(IReadOnlyList<string> row) => row.Count(c => !string.IsNullOrWhiteSpace(c));
}
