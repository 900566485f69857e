using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.Core.Batches;

/// <summary>What one row asks a link to be made from.</summary>
/// <param name="Destination">The page's address; empty when the row has none.</param>
/// <param name="Placement">Id or name, or null.</param>
/// <param name="Campaign">Id or name, or null.</param>
/// <param name="Fields">Values by key or label; fields the row leaves empty are not in it.</param>
/// <param name="Title">What the link is called, or null.</param>
/// <param name="Unknown">Names of columns the recipe asks for and the sheet doesn't have.</param>
public sealed record RowRequest(
    string Destination,
    string? Placement,
    string? Campaign,
    IReadOnlyDictionary<string, string> Fields,
    string? Title,
    IReadOnlyList<string> Unknown
)
{
    /// <summary>What the title is called among the values of a row.</summary>
    public const string TitleName = "linkTitle";

    private const int LongestTitle = 300;

    /// <summary>Applies a recipe to a row.</summary>
    /// <param name="recipe">The recipe.</param>
    /// <param name="table">The sheet's headings.</param>
    /// <param name="row">The row's cells.</param>
    /// <param name="overrides">Values typed for this row alone, by field key, or by <c>destination</c>, <c>placement</c>, <c>campaign</c>, <see cref="TitleName"/>.</param>
    public static RowRequest Of(
        Recipe recipe,
        Table table,
        IReadOnlyList<string> row,
        IReadOnlyDictionary<string, string>? overrides = null
    )
    {
        var unknown = new List<string>();
        var fields = new Dictionary<string, string>(recipe.Fields.Count);
        foreach (var (name, source) in recipe.Fields)
        {
            if (ValueOf(source, table, row, unknown) is { Length: > 0 } value)
            {
                fields[name] = value;
            }
        }

        string destination = ValueOf(recipe.Destination, table, row, unknown);
        string placement = ValueOf(recipe.Placement, table, row, unknown);
        string campaign = ValueOf(recipe.Campaign, table, row, unknown);
        string title = ValueOf(recipe.Title, table, row, unknown);
        foreach (var (name, value) in overrides ?? new Dictionary<string, string>())
        {
            switch (name)
            {
                case "destination":
                    destination = value;
                    break;
                case "placement":
                    placement = value;
                    break;
                case "campaign":
                    campaign = value;
                    break;
                case TitleName:
                    title = value;
                    break;
                default:
                    fields[name] = value;
                    break;
            }
        }

        return new RowRequest(
            destination.Trim(),
            OrNull(placement),
            OrNull(campaign),
            fields,
            OrNull(title) is { } called ? called[..Math.Min(called.Length, LongestTitle)] : null,
            unknown
        );
    }

    /// <summary>A text beside a row's link: columns of the row are filled in, and its link.</summary>
    /// <param name="text">The text; a name that is neither a column nor <c>link</c> stays as it stands.</param>
    /// <param name="table">The sheet's headings.</param>
    /// <param name="row">The row's cells.</param>
    /// <param name="link">The link. A column that is called “link” too gives way to it.</param>
    public static string TextOf(string text, Table table, IReadOnlyList<string> row, string link) =>
        Plan
            .FillIns.Fill(text, name => name.Equals("link", StringComparison.OrdinalIgnoreCase) ? link
                : table.Find(name) is var at and >= 0 ? Table.Cell(row, at).Trim()
                : null)
            .Text;

    private static string ValueOf(CellSource? source, Table table, IReadOnlyList<string> row, List<string> unknown)
    {
        if (source is null)
        {
            return "";
        }

        if (source.Column is { } column)
        {
            return CellOf(column) ?? "";
        }

        if (source.Text is not { } text)
        {
            return source.Value ?? "";
        }

        // A text all of whose columns are empty in this row says nothing, so that default values can speak.
        bool any = false,
            columns = false;
        string filled = Plan
            .FillIns.Fill(text, name =>
            {
                string? cell = CellOf(name);
                columns |= cell is not null;
                any |= !string.IsNullOrWhiteSpace(cell);
                return cell;
            })
            .Text;
        return columns && !any ? "" : filled;

        string? CellOf(string name)
        {
            int at = table.Find(name);
            if (at >= 0)
            {
                return Table.Cell(row, at);
            }

            if (!unknown.Contains(name))
            {
                unknown.Add(name);
            }

            return null;
        }
    }

    private static string? OrNull(string text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
