using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.LinkReviews;

/// <summary>A link that is in use, and where it stands.</summary>
/// <param name="Link">The link as it was found.</param>
/// <param name="FoundOn">The page or place it stands on; null when that is not known.</param>
public sealed record UsedLink(string Link, string? FoundOn);

/// <summary>Takes links out of what people bring: a plain list, or a sheet with a column of links (ours).</summary>
public static class LinkList
{
    private static readonly string[] PlaceWords = ["stands on", "found on", "page", "where", "placement", "seen on", "source page"];

    /// <summary>The links of a plain list, one on a line, each with its place after a tab where there is one; null when the text begins with something else than a link.</summary>
    public static IReadOnlyList<UsedLink>? OfText(string text)
    {
        var lines = text.Split('\n').Select(l => l.Trim('\r', ' ', '\uFEFF')).Where(l => l.Length > 0).ToList();
        return lines.Count > 0 && IsLink(lines[0].Split('\t')[0])
            ?
            [
                .. lines
                    .Select(l => l.Split('\t', 2))
                    .Select(l => new UsedLink(l[0].Trim(), l.Length > 1 && l[1].Trim().Length > 0 ? l[1].Trim() : null)),
            ]
            : null;
    }

    /// <summary>The links of a sheet's column of links; null when no column looks like one.</summary>
    public static IReadOnlyList<UsedLink>? OfTable(Table table, Convention convention)
    {
        if (RecipeGuess.Of(table, convention, [], []).Destination?.Column is not { } name)
        {
            return null;
        }

        int column = table.Find(name);
        int place = Enumerable
            .Range(0, table.Names.Count)
            .Where(i => i != column)
            .FirstOrDefault(i => PlaceWords.Any(w => table.Names[i].Equals(w, StringComparison.OrdinalIgnoreCase)), -1);
        return
        [
            .. table
                .Rows.Select(r => new UsedLink(
                    Table.Cell(r, column).Trim(),
                    Table.Cell(r, place).Trim() is { Length: > 0 } found ? found : null
                ))
                .Where(l => l.Link.Length > 0),
        ];
    }

    private static bool IsLink(string text) =>
        text.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
        || text.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
        || text.StartsWith("www.", StringComparison.OrdinalIgnoreCase);
}
