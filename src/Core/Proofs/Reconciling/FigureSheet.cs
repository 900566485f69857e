using System.Text.Json.Serialization;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Core.Proofs.Reconciling;

/// <summary>Which columns of another system's file say what; columns by their names, null where there is none.</summary>
/// <param name="Day">The day the figures are of.</param>
/// <param name="Shown">How often something was shown.</param>
/// <param name="Sent">Mails sent.</param>
/// <param name="Delivered">Mails delivered.</param>
/// <param name="Opened">Mails opened.</param>
/// <param name="Clicks">Clicks.</param>
/// <param name="Visits">Visits.</param>
/// <param name="Conversions">Conversions.</param>
/// <param name="Link">A link: its id, its short URL, its whole URL, or its title.</param>
/// <param name="Campaign">A campaign's name or written value.</param>
/// <param name="Placement">A placement's name.</param>
/// <param name="Values">Columns of written values, by field key.</param>
/// <param name="Decimal">“.” or “,” in conversions; null to find it out.</param>
/// <param name="DayFirst">Whether the day stands before the month where a slash parts them; null to find it out.</param>
public sealed record FigureRecipe(
    string? Day,
    string? Shown = null,
    string? Sent = null,
    string? Delivered = null,
    string? Opened = null,
    string? Clicks = null,
    string? Visits = null,
    string? Conversions = null,
    string? Link = null,
    string? Campaign = null,
    string? Placement = null,
    IReadOnlyDictionary<string, string>? Values = null,
    string? Decimal = null,
    bool? DayFirst = null
)
{
    private static readonly string[] DayHeads = ["Day", "Date", "Datum", "Reporting day", "Send day"];
    private static readonly string[] ShownHeads = ["Shown", "Impressions", "Views"];
    private static readonly string[] SentHeads = ["Sent", "Emails sent", "Recipients"];
    private static readonly string[] DeliveredHeads = ["Delivered", "Deliveries"];
    private static readonly string[] OpenedHeads = ["Opened", "Opens", "Unique opens"];
    private static readonly string[] ClicksHeads = ["Clicks", "Link clicks", "Unique clicks", "Scans"];
    private static readonly string[] VisitsHeads = ["Visits", "Sessions"];
    private static readonly string[] ConversionsHeads = ["Conversions", "Orders", "Purchases"];

    /// <summary>The columns that say what a row is about.</summary>
    [JsonIgnore]
    public TargetColumns Target => new(Link, Campaign, Placement, Values);

    /// <summary>The columns with counts.</summary>
    [JsonIgnore]
    public IEnumerable<string> Figures => new[] { Shown, Sent, Delivered, Opened, Clicks, Visits, Conversions }.OfType<string>();

    /// <summary>What the headings of a file suggest.</summary>
    public static FigureRecipe Guess(Table table, Convention convention)
    {
        var target = TargetColumns.Guess(table, convention);
        string? Column(string[] heads) => TargetColumns.Column(table, heads);
        return new FigureRecipe(
            Column(DayHeads),
            Column(ShownHeads),
            Column(SentHeads),
            Column(DeliveredHeads),
            Column(OpenedHeads),
            Column(ClicksHeads),
            Column(VisitsHeads),
            Column(ConversionsHeads),
            target.Link,
            target.Campaign,
            target.Placement,
            target.Values
        );
    }

    /// <summary>A column it names that a file does not have; null where all are there.</summary>
    public string? MissingIn(Table table) =>
        new[] { Day }.OfType<string>().Concat(Figures).Concat(Target.All).FirstOrDefault(c => table.Find(c) < 0);
}

/// <summary>One row of another system's file.</summary>
/// <param name="Number">Its row in the file, the headings' being 1.</param>
/// <param name="Day">Null where there is a problem with it.</param>
/// <param name="Figures">What it counts.</param>
/// <param name="Target">What it is about.</param>
/// <param name="Problem">Why it is left out; null where it is not.</param>
/// <param name="About">The text the problem is about; empty for none.</param>
public sealed record FigureRow(
    int Number,
    DateOnly? Day,
    OtherFigures Figures,
    NamedTarget Target,
    ImportProblem? Problem = null,
    string About = ""
);

/// <summary>Reads files of other systems' figures, row by row.</summary>
public static class FigureSheet
{
    /// <summary>The rows of a file, empty ones left out.</summary>
    /// <param name="table">The file.</param>
    /// <param name="recipe">Which column says what; all columns it names are there.</param>
    /// <param name="convention">The convention whose aliases and words are meant.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    public static IEnumerable<FigureRow> Read(Table table, FigureRecipe recipe, Convention convention, DateOnly today)
    {
        int At(string? column) => column is null ? -1 : table.Find(column);
        int dayAt = At(recipe.Day),
            conversionsAt = At(recipe.Conversions);
        int[] countsAt = [.. new[] { recipe.Shown, recipe.Sent, recipe.Delivered, recipe.Opened, recipe.Clicks, recipe.Visits }.Select(At)];
        var targetOf = recipe.Target.ReaderOf(table, convention);
        var days = new DayColumn(table.Rows.Select(r => Table.Cell(r, dayAt)), recipe.DayFirst);
        var conversions = new AmountColumn(
            table.Rows.Select(r => Table.Cell(r, conversionsAt)),
            recipe.Decimal is [var point] ? point : null
        );
        for (int i = 0; i < table.Rows.Count; i++)
        {
            var cells = table.Rows[i];
            if (cells.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            string dayText = Table.Cell(cells, dayAt).Trim();
            var (day, dayProblem) = days.Read(dayText);
            (ImportProblem Problem, string About)? wrong =
                dayProblem is { } wrongDay ? (wrongDay, dayText)
                : day > today ? (ImportProblem.DayToCome, dayText)
                : null;
            var counts = new long?[countsAt.Length];
            for (int k = 0; k < counts.Length; k++)
            {
                string text = Table.Cell(cells, countsAt[k]);
                (counts[k], var problem) = CountColumn.Read(text);
                wrong ??= problem is { } unreadable ? (unreadable, text.Trim()) : null;
            }

            string conversionsText = Table.Cell(cells, conversionsAt);
            var (converted, conversionProblem) = conversions.Read(conversionsText is "-" or "–" ? "" : conversionsText);
            wrong ??= conversionProblem is { } broken ? (broken, conversionsText.Trim()) : null;
            var figures = new OtherFigures(counts[0], counts[1], counts[2], counts[3], counts[4], counts[5], converted);
            var target = targetOf(cells);
            wrong ??=
                figures.IsEmpty ? (ImportProblem.FiguresMissing, "")
                : target.IsEmpty ? (ImportProblem.TargetMissing, "")
                : null;
            yield return new FigureRow(i + 2, day, figures, target, wrong?.Problem, wrong?.About ?? "");
        }
    }
}
