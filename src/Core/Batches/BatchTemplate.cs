using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Batches;

/// <summary>A column of the sheet people fill in their own spreadsheet.</summary>
/// <param name="Heading">Its heading.</param>
/// <param name="Target">What it feeds: <c>destination</c>, <c>placement</c>, <c>campaign</c>, or a field's key.</param>
/// <param name="IsRequired">A row without it yields no link, whatever else is chosen.</param>
/// <param name="Hint">What is said at the heading.</param>
/// <param name="Words">What can be chosen; null for free text.</param>
/// <param name="IsClosed">Nothing else can be chosen.</param>
/// <param name="NarrowedBy">Target of the column whose choice narrows the list; null for none.</param>
/// <param name="Narrowed">What can be chosen beside each choice of that column.</param>
public sealed record FillColumn(
    string Heading,
    string Target,
    bool IsRequired,
    string Hint,
    IReadOnlyList<string>? Words,
    bool IsClosed,
    string? NarrowedBy,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Narrowed
);

/// <summary>
/// The sheet people fill who stay in their spreadsheet (ours): which columns it has, and the recipe it comes back with. Its
/// headings alone say that it is this sheet.
/// </summary>
public static class BatchTemplate
{
    private static readonly Dictionary<string, IReadOnlyList<string>> NotNarrowed = [];

    /// <summary>Its columns.</summary>
    /// <param name="convention">The convention that holds.</param>
    /// <param name="placements">Names of the placements in use.</param>
    /// <param name="campaigns">Names of the campaigns in use.</param>
    public static IReadOnlyList<FillColumn> Columns(
        Convention convention,
        IReadOnlyList<string> placements,
        IReadOnlyList<string> campaigns
    )
    {
        var columns = new List<FillColumn>
        {
            new(
                "Page",
                "destination",
                true,
                "Required. The complete page address, as shown in the browser.",
                null,
                false,
                null,
                NotNarrowed
            ),
            new(
                "Placement",
                "placement",
                false,
                "Where the link will appear; it sets source, medium and its other default values. Leave it empty to enter those yourself.",
                placements,
                true,
                null,
                NotNarrowed
            ),
            new(
                "Campaign",
                "campaign",
                false,
                "What the link is for; it sets the campaign’s name and dates.",
                campaigns,
                true,
                null,
                NotNarrowed
            ),
        };
        foreach (var field in convention.Fields.Where(f => f is { Kind: FieldKind.Text or FieldKind.Date, Presence: not Presence.Hidden }))
        {
            var meaning = convention.MeaningOf(field);
            bool follows = meaning is FieldMeaning.Source or FieldMeaning.Medium or FieldMeaning.Campaign;
            bool isRequired = field.Presence == Presence.Required && !follows;
            string[] hint =
            [
                isRequired ? "Required."
                : field.Presence == Presence.Required
                    ? $"Required, unless the {(meaning == FieldMeaning.Campaign ? "campaign" : "placement")} sets it."
                : "",
                field.Hint ?? "",
                field.Example is { Length: > 0 } example ? $"For example {example}" : "",
            ];
            var choices = convention.Choices.Where(c => c.Narrows == field.Key).GroupBy(c => c.Field).FirstOrDefault();
            columns.Add(
                new FillColumn(
                    HeadingOf(field),
                    field.Key,
                    isRequired,
                    string.Join(' ', hint.Where(h => h.Length > 0)),
                    field.Words?.Words.Where(w => !w.Retired).Select(w => w.Written).ToList(),
                    field.ClosedList,
                    choices?.Key,
                    choices?.GroupBy(c => c.Word).ToDictionary(c => c.Key, c => c.First().To) ?? NotNarrowed
                )
            );
        }

        return columns;
    }

    /// <summary>The recipe of a sheet with exactly these headings; null for any other sheet.</summary>
    public static Recipe? RecipeOf(Table table, Convention convention)
    {
        var columns = Columns(convention, [], []);
        if (!table.Names.SequenceEqual(columns.Select(c => c.Heading)))
        {
            return null;
        }

        return new Recipe
        {
            Destination = new CellSource(Column: columns[0].Heading),
            Placement = new CellSource(Column: columns[1].Heading),
            Campaign = new CellSource(Column: columns[2].Heading),
            Fields = columns.Skip(3).ToDictionary(c => c.Target, c => new CellSource(Column: c.Heading)),
        };
    }

    /// <summary>A field that is called like one of the first columns is the tag that is written.</summary>
    private static string HeadingOf(Field field) => field.Label is "Page" or "Placement" or "Campaign" ? $"{field.Label} tag" : field.Label;
}
