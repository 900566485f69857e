using System.Text.Json.Serialization;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Core.Costs;

/// <summary>Which columns of a file say what; columns by their names, null where there is none.</summary>
/// <param name="Day">The day the money was spent on.</param>
/// <param name="Amount">The money.</param>
/// <param name="Currency">Its currency, ISO 4217.</param>
/// <param name="Link">A link: its id, its short URL, its whole URL, or its title.</param>
/// <param name="Campaign">A campaign's name or written value.</param>
/// <param name="Placement">A placement's name.</param>
/// <param name="Values">Columns of written values, by field key.</param>
/// <param name="InCurrency">The currency of rows that name none; null for the workspace's.</param>
/// <param name="Decimal">“.” or “,”; null to find it out.</param>
/// <param name="DayFirst">Whether the day stands before the month where a slash parts them; null to find it out.</param>
public sealed record CostRecipe(
    string? Day,
    string? Amount,
    string? Currency = null,
    string? Link = null,
    string? Campaign = null,
    string? Placement = null,
    IReadOnlyDictionary<string, string>? Values = null,
    string? InCurrency = null,
    string? Decimal = null,
    bool? DayFirst = null
)
{
    private static readonly string[] DayHeads = ["Day", "Date", "Datum", "Reporting day"];
    private static readonly string[] AmountHeads = ["Cost", "Costs", "Amount", "Amount spent", "Spend", "Spent"];
    private static readonly string[] CurrencyHeads = ["Currency", "Currency code"];

    /// <summary>The columns that say what a cost belongs to.</summary>
    [JsonIgnore]
    public TargetColumns Target => new(Link, Campaign, Placement, Values);

    /// <summary>What the headings of a file suggest.</summary>
    public static CostRecipe Guess(Table table, Convention convention)
    {
        var target = TargetColumns.Guess(table, convention);
        return new CostRecipe(
            TargetColumns.Column(table, DayHeads),
            TargetColumns.Column(table, AmountHeads),
            TargetColumns.Column(table, CurrencyHeads),
            target.Link,
            target.Campaign,
            target.Placement,
            target.Values
        );
    }

    /// <summary>A column it names that a file does not have; null where all are there.</summary>
    public string? MissingIn(Table table) =>
        new[] { Day, Amount, Currency }.OfType<string>().Concat(Target.All).FirstOrDefault(c => table.Find(c) < 0);
}

/// <summary>One row of a file of costs.</summary>
/// <param name="Number">Its row in the file, the headings' being 1.</param>
/// <param name="Day">Null where there is a problem with it.</param>
/// <param name="Amount">Null where there is a problem with it.</param>
/// <param name="Currency">ISO 4217, capitals.</param>
/// <param name="Target">What it says the money was spent on.</param>
/// <param name="Problem">Why it is left out; null where it is not.</param>
/// <param name="About">The text the problem is about; empty for none.</param>
public sealed record CostRow(
    int Number,
    DateOnly? Day,
    decimal? Amount,
    string Currency,
    NamedTarget Target,
    ImportProblem? Problem,
    string About
)
{
    /// <summary>The same, left out.</summary>
    public CostRow Refused(ImportProblem problem, string about) => this with { Problem = problem, About = about };
}

/// <summary>Reads files of costs, row by row.</summary>
public static class CostSheet
{
    /// <summary>The rows of a file, empty ones left out.</summary>
    /// <param name="table">The file.</param>
    /// <param name="recipe">Which column says what; all columns it names are there.</param>
    /// <param name="convention">The convention whose aliases and words are meant.</param>
    /// <param name="currency">The workspace's currency.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    public static IEnumerable<CostRow> Read(Table table, CostRecipe recipe, Convention convention, string currency, DateOnly today)
    {
        int At(string? column) => column is null ? -1 : table.Find(column);
        int dayAt = At(recipe.Day),
            amountAt = At(recipe.Amount),
            currencyAt = At(recipe.Currency);
        var targetOf = recipe.Target.ReaderOf(table, convention);
        var days = new DayColumn(table.Rows.Select(r => Table.Cell(r, dayAt)), recipe.DayFirst);
        var amounts = new AmountColumn(table.Rows.Select(r => Table.Cell(r, amountAt)), recipe.Decimal is [var point] ? point : null);
        for (int i = 0; i < table.Rows.Count; i++)
        {
            var cells = table.Rows[i];
            if (cells.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            string Cell(int column) => Table.Cell(cells, column).Trim();
            var (day, dayProblem) = days.Read(Cell(dayAt));
            var (amount, amountProblem) = amounts.Read(Cell(amountAt));
            string named = Cell(currencyAt) is { Length: > 0 } own ? own : recipe.InCurrency ?? currency;
            var row = new CostRow(i + 2, day, amount, named.ToUpperInvariant(), targetOf(cells), Problem: null, About: "");
            yield return dayProblem is { } wrongDay ? row.Refused(wrongDay, Cell(dayAt))
            : day > today ? row.Refused(ImportProblem.DayToCome, Cell(dayAt))
            : amountProblem is { } wrongAmount ? row.Refused(wrongAmount, Cell(amountAt))
            : amount is null ? row.Refused(ImportProblem.AmountMissing, "")
            : !Currencies.IsKnown(row.Currency) ? row.Refused(ImportProblem.CurrencyUnknown, named)
            : row.Target.IsEmpty ? row.Refused(ImportProblem.TargetMissing, "")
            : row;
        }
    }
}
