using System.Text.Json.Serialization;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
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
    private static readonly string[] LinkHeads = ["Short link", "Short URL", "Link", "Link id", "URL"];
    private static readonly string[] CampaignHeads = ["Campaign", "Campaign name"];
    private static readonly string[] PlacementHeads = ["Placement", "Placement name"];

    /// <summary>What the headings of a file suggest.</summary>
    public static CostRecipe Guess(Table table, Convention convention)
    {
        string? Column(string[] heads) =>
            heads.Select(table.Find).FirstOrDefault(i => i >= 0, -1) is var at and >= 0 ? table.Names[at] : null;
        string? campaign = Column(CampaignHeads);
        var values = new Dictionary<string, string>();
        foreach (string name in table.Names)
        {
            if (name != campaign && convention.Find(name) is { } field)
            {
                values.TryAdd(field.Key, name);
            }
        }

        return new CostRecipe(
            Column(DayHeads),
            Column(AmountHeads),
            Column(CurrencyHeads),
            Column(LinkHeads),
            campaign,
            Column(PlacementHeads),
            values
        );
    }

    /// <summary>A column it names that a file does not have; null where all are there.</summary>
    public string? MissingIn(Table table) =>
        new[] { Day, Amount, Currency, Link, Campaign, Placement }
            .Concat((Values ?? new Dictionary<string, string>()).Values)
            .OfType<string>()
            .FirstOrDefault(c => table.Find(c) < 0);
}

/// <summary>Why a row of costs is left out.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<CostProblem>))]
public enum CostProblem
{
    DayMissing,
    DayUnreadable,
    DayAmbiguous,

    /// <summary>Its day is still to come.</summary>
    DayToCome,

    AmountMissing,
    AmountUnreadable,
    AmountAmbiguous,
    AmountNegative,
    CurrencyUnknown,

    /// <summary>It doesn't say what the money was spent on.</summary>
    TargetMissing,

    LinkUnknown,

    /// <summary>Several links are meant, such as by a title that is given twice.</summary>
    LinkAmbiguous,

    CampaignUnknown,
    PlacementUnknown,
}

/// <summary>One row of a file of costs.</summary>
/// <param name="Number">Its row in the file, the headings' being 1.</param>
/// <param name="Day">Null where there is a problem with it.</param>
/// <param name="Amount">Null where there is a problem with it.</param>
/// <param name="Currency">ISO 4217, capitals.</param>
/// <param name="Link">What it says of a link; empty for nothing, as are the next two.</param>
/// <param name="Campaign">What it says of a campaign.</param>
/// <param name="Placement">What it says of a placement.</param>
/// <param name="Values">Written values by field key, empty ones left out; aliases are their words.</param>
/// <param name="Problem">Why it is left out; null where it is not.</param>
/// <param name="About">The text the problem is about; empty for none.</param>
public sealed record CostRow(
    int Number,
    DateOnly? Day,
    decimal? Amount,
    string Currency,
    string Link,
    string Campaign,
    string Placement,
    IReadOnlyDictionary<string, string> Values,
    CostProblem? Problem,
    string About
)
{
    /// <summary>The same, left out.</summary>
    public CostRow Refused(CostProblem problem, string about) => this with { Problem = problem, About = about };
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
            currencyAt = At(recipe.Currency),
            linkAt = At(recipe.Link),
            campaignAt = At(recipe.Campaign),
            placementAt = At(recipe.Placement);
        var valuesAt = (recipe.Values ?? new Dictionary<string, string>())
            .Select(v => (Field: convention.Find(v.Key), At: At(v.Value)))
            .Where(v => v.Field is not null && v.At >= 0)
            .ToList();
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
            var row = new CostRow(
                i + 2,
                day,
                amount,
                named.ToUpperInvariant(),
                Cell(linkAt),
                Cell(campaignAt),
                Cell(placementAt),
                valuesAt
                    .Select(v => (v.Field!.Key, Value: Written(v.Field, Cell(v.At))))
                    .Where(v => v.Value.Length > 0)
                    .GroupBy(v => v.Key)
                    .ToDictionary(g => g.Key, g => g.First().Value),
                Problem: null,
                About: ""
            );
            yield return dayProblem is { } wrongDay ? row.Refused(wrongDay, Cell(dayAt))
            : day > today ? row.Refused(CostProblem.DayToCome, Cell(dayAt))
            : amountProblem is { } wrongAmount ? row.Refused(wrongAmount, Cell(amountAt))
            : amount is null ? row.Refused(CostProblem.AmountMissing, "")
            : !Currencies.IsKnown(row.Currency) ? row.Refused(CostProblem.CurrencyUnknown, named)
            : row is { Link: "", Campaign: "", Placement: "", Values.Count: 0 } ? row.Refused(CostProblem.TargetMissing, "")
            : row;
        }
    }

    private static string Written(Field field, string text) =>
        text.Length == 0 ? ""
        : field.Words?.Find(text) is { } word ? word.Written
        : ValueNormaliser.Normalise(text, field.Rules).Written;
}
