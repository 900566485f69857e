namespace PreciseBeacon.Core.Batches;

/// <summary>A sheet as text: headings, and rows of cells exactly as they were uploaded.</summary>
/// <param name="Headings">Headings as written; empty and double ones are possible.</param>
/// <param name="Rows">Rows in order. A row may have fewer or more cells than there are headings.</param>
public sealed record Table(IReadOnlyList<string> Headings, IReadOnlyList<IReadOnlyList<string>> Rows)
{
    /// <summary>
    /// Headings by which columns can be named: trimmed, an empty one as “Column 3”, a second one of a name as “Name (2)”.
    /// </summary>
    public IReadOnlyList<string> Names { get; } = NamesOf(Headings);

    /// <summary>Place of the column of a name, whatever its case; −1 when there is none.</summary>
    public int Find(string name)
    {
        for (int i = 0; i < Names.Count; i++)
        {
            if (Names[i].Equals(name.Trim(), StringComparison.OrdinalIgnoreCase))
            {
                return i;
            }
        }

        return -1;
    }

    /// <summary>The cell of a row in a column; empty where the row is too short.</summary>
    public static string Cell(IReadOnlyList<string> row, int column) => column >= 0 && column < row.Count ? row[column] : "";

    private static List<string> NamesOf(IReadOnlyList<string> headings)
    {
        var names = new List<string>(headings.Count);
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        for (int i = 0; i < headings.Count; i++)
        {
            string plain = headings[i].Trim() is { Length: > 0 } heading ? heading : $"Column {i + 1}";
            string name = plain;
            for (int n = 2; !taken.Add(name); n++)
            {
                name = $"{plain} ({n})";
            }

            names.Add(name);
        }

        return names;
    }
}
