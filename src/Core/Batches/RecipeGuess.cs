using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Batches;

/// <summary>Guesses a recipe from a sheet's headings and first rows (ours). It is only ever shown as a guess.</summary>
public static class RecipeGuess
{
    private const int Looked = 50;

    private static readonly string[] PageWords =
    [
        "final url",
        "landing page",
        "destination url",
        "target url",
        "destination",
        "landing",
        "page",
        "url",
        "link",
        "address",
    ];
    private static readonly string[] ShownWords = ["display", "shown", "visible", "appears"];
    private static readonly string[] TitleWords = ["title", "name", "headline", "group", "ad name", "label", "subject", "post"];
    private static readonly string[] ContentWords = ["variant", "ad name", "creative", "headline", "title", "ad"];

    /// <summary>The guess.</summary>
    /// <param name="table">The sheet.</param>
    /// <param name="convention">The convention that holds.</param>
    /// <param name="placements">Names of the workspace's placements.</param>
    /// <param name="campaigns">Names of its campaigns.</param>
    public static Recipe Of(
        Table table,
        Convention convention,
        IReadOnlyCollection<string> placements,
        IReadOnlyCollection<string> campaigns
    )
    {
        var taken = new HashSet<int>();
        int page = Best(table, taken, (name, cells) => PageScore(name, cells));
        int placement = Best(table, taken, (_, cells) =>
            ShareOf(cells, c => placements.Contains(c, StringComparer.OrdinalIgnoreCase)) is var share and >= 0.5 ? share : 0
        );
        int campaign = Best(table, taken, (_, cells) =>
            ShareOf(cells, c => campaigns.Contains(c, StringComparer.OrdinalIgnoreCase)) is var share and >= 0.5 ? share : 0
        );
        var fields = new Dictionary<string, CellSource>();
        foreach (var field in convention.Fields.Where(f => f.Kind is FieldKind.Text or FieldKind.Date))
        {
            int column = Best(table, taken, (name, _) => convention.Find(name)?.Key == field.Key ? 1 : 0);
            if (column < 0 && field.Words is { } words)
            {
                // A column is also known by its cells: most of them are words of the field's list, or stand for one.
                column = Best(table, taken, (_, cells) =>
                    ShareOf(cells, c => words.Match(c).Kind is WordMatchKind.Known or WordMatchKind.Alias) is var share and >= 0.6
                        ? share
                        : 0
                );
            }

            if (column < 0 && convention.KeyOf(FieldMeaning.Content) == field.Key)
            {
                column = Best(table, taken, (name, cells) => WordScore(name, ContentWords) * (cells.Distinct().Count() > 1 ? 1 : 0));
            }

            if (column >= 0)
            {
                fields[field.Key] = new CellSource(Column: table.Names[column]);
            }
        }

        // What a row is called is told apart from what its link says, so a column may feed both.
        int title = Best(table, [page, placement, campaign], (name, cells) =>
            TitleWords.Contains(name, StringComparer.OrdinalIgnoreCase) && cells.Distinct().Count() * 2 > cells.Count ? 1 : 0
        );
        return new Recipe
        {
            Destination = ColumnOf(page),
            Placement = ColumnOf(placement),
            Campaign = ColumnOf(campaign),
            Fields = fields,
            Title = ColumnOf(title),
        };

        CellSource? ColumnOf(int at) => at < 0 ? null : new CellSource(Column: table.Names[at]);
    }

    /// <summary>True when two sheets have the same headings, in whatever order: then a saved recipe fits.</summary>
    public static bool Fits(IEnumerable<string> headings, Table table) =>
        new HashSet<string>(headings.Select(h => h.Trim()), StringComparer.OrdinalIgnoreCase).SetEquals(table.Names);

    private static int Best(Table table, HashSet<int> taken, Func<string, List<string>, double> score)
    {
        int best = -1;
        double most = 0;
        for (int i = 0; i < table.Names.Count; i++)
        {
            if (taken.Contains(i))
            {
                continue;
            }

            var cells = table.Rows.Take(Looked).Select(r => Table.Cell(r, i).Trim()).Where(c => c.Length > 0).ToList();
            double points = score(table.Names[i], cells);
            if (points > most)
            {
                (best, most) = (i, points);
            }
        }

        if (best >= 0)
        {
            taken.Add(best);
        }

        return best;
    }

    /// <summary>An address that an advertisement merely shows has no scheme, or says so in its heading.</summary>
    private static double PageScore(string name, List<string> cells)
    {
        if (ShownWords.Any(w => name.Contains(w, StringComparison.OrdinalIgnoreCase)))
        {
            return 0;
        }

        double whole = ShareOf(cells, c =>
            c.StartsWith("http://", StringComparison.OrdinalIgnoreCase) || c.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
        );
        double bare = ShareOf(cells, c =>
            c.Contains('.', StringComparison.Ordinal)
            && c.Contains('/', StringComparison.Ordinal)
            && DestinationReader.Read(c).Destination is not null
        );
        double looks = Math.Max(whole, bare * 0.5);
        return looks < 0.4 ? 0 : looks + (WordScore(name, PageWords) * 0.5);
    }

    private static double WordScore(string name, string[] words)
    {
        int at = Array.FindIndex(words, w => name.Equals(w, StringComparison.OrdinalIgnoreCase));
        if (at < 0)
        {
            at = Array.FindIndex(words, w => name.Contains(w, StringComparison.OrdinalIgnoreCase)) is var part and >= 0
                ? part + words.Length
                : -1;
        }

        return at < 0 ? 0 : 1 - (at / (2.0 * words.Length));
    }

    private static double ShareOf(List<string> cells, Func<string, bool> holds) =>
        cells.Count == 0 ? 0 : cells.Count(holds) / (double)cells.Count;
}
