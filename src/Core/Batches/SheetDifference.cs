namespace PreciseBeacon.Core.Batches;

/// <summary>A row of a later sheet and the row of the earlier one it goes on from; both numbers from 1.</summary>
/// <param name="Before">The row's number in the earlier sheet.</param>
/// <param name="After">The row's number in the later sheet.</param>
/// <param name="Columns">Columns whose cells differ, in the order of the later sheet; empty for a row that is the same.</param>
public sealed record RowPair(int Before, int After, IReadOnlyList<string> Columns);

/// <summary>What a later sheet says that an earlier one did not: as when next month's file comes.</summary>
/// <param name="Key">The column rows are recognised by; null when no column tells them apart, so that only equal rows are recognised.</param>
/// <param name="Pairs">Rows that are in both, by their number in the later one.</param>
/// <param name="Added">Numbers of rows only the later one has.</param>
/// <param name="Gone">Numbers of rows only the earlier one had.</param>
public sealed record SheetDifference(string? Key, IReadOnlyList<RowPair> Pairs, IReadOnlyList<int> Added, IReadOnlyList<int> Gone)
{
    /// <summary>Compares two sheets (ours): by the first column that names every row of both once, else by whole rows.</summary>
    /// <param name="before">The earlier sheet.</param>
    /// <param name="after">The later one.</param>
    /// <param name="ignored">Columns that are not compared, such as the one links are written into.</param>
    public static SheetDifference Between(Table before, Table after, IReadOnlyCollection<string> ignored)
    {
        var shared = after
            .Names.Where(n => before.Find(n) >= 0 && !ignored.Contains(n, StringComparer.OrdinalIgnoreCase))
            .Select(n => (Name: n, Before: before.Find(n), After: after.Find(n)))
            .ToList();
        var key = shared
            .Where(c => IsUnique(before, c.Before) && IsUnique(after, c.After))
            .Select(c => ((string, int, int)?)c)
            .FirstOrDefault();
        var earlier = new Dictionary<string, Queue<int>>(before.Rows.Count);
        for (int i = 0; i < before.Rows.Count; i++)
        {
            string name = NameOf(before.Rows[i], later: false);
            if (!earlier.TryGetValue(name, out var numbers))
            {
                earlier[name] = numbers = new Queue<int>(1);
            }

            numbers.Enqueue(i);
        }

        var pairs = new List<RowPair>();
        var added = new List<int>();
        for (int i = 0; i < after.Rows.Count; i++)
        {
            if (earlier.TryGetValue(NameOf(after.Rows[i], later: true), out var numbers) && numbers.TryDequeue(out int at))
            {
                pairs.Add(
                    new RowPair(
                        at + 1,
                        i + 1,
                        [
                            .. shared
                                .Where(c => Table.Cell(before.Rows[at], c.Before) != Table.Cell(after.Rows[i], c.After))
                                .Select(c => c.Name),
                        ]
                    )
                );
            }
            else
            {
                added.Add(i + 1);
            }
        }

        return new SheetDifference(key?.Item1, pairs, added, [.. earlier.Values.SelectMany(n => n).Order().Select(n => n + 1)]);

        string NameOf(IReadOnlyList<string> row, bool later) =>
            key is { } known
                ? Table.Cell(row, later ? known.Item3 : known.Item2).Trim()
                : string.Join('\u001f', shared.Select(c => Table.Cell(row, later ? c.After : c.Before)));
    }

    private static bool IsUnique(Table table, int column)
    {
        var seen = new HashSet<string>(table.Rows.Count);
        return table.Rows.All(r => Table.Cell(r, column).Trim() is { Length: > 0 } cell && seen.Add(cell));
    }
}
