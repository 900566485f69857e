using System.Globalization;

namespace PreciseBeacon.Core.Reports;

/// <summary>Figures as people read them on paper; the interface writes them alike (one table tests both).</summary>
public static class FigureText
{
    /// <summary>The dash that stands for a figure that can't be given.</summary>
    public const string None = "–";

    /// <summary>Measures on the line where none are chosen.</summary>
    public static readonly IReadOnlyList<string> UsualStations = ["clicks", "visits", "stayed", "convertingVisits", "revenue"];

    /// <summary>Measures that follow it where none are chosen.</summary>
    public static readonly IReadOnlyList<string> UsualColumns = ["visitors", "secondsPerVisit", "revenuePerVisit"];

    private static readonly Dictionary<string, (string Label, string Format)> Texts = new(StringComparer.OrdinalIgnoreCase)
    {
        ["clicks"] = ("Clicks", Count),
        ["scans"] = ("Scans", Count),
        ["visits"] = ("Visits", Count),
        ["visitors"] = ("Visitors", Count),
        ["newVisitors"] = ("New visitors", Count),
        ["stayed"] = ("Stayed", Count),
        ["bounces"] = ("Bounces", Count),
        ["convertingVisits"] = ("Converted", Count),
        ["conversions"] = ("Conversions", Part),
        ["verifiedConversions"] = ("Verified", Part),
        ["conversionsGained"] = ("Conversions gained", Gain),
        ["pageViews"] = ("Page views", Count),
        ["events"] = ("Events", Count),
        ["revenue"] = ("Revenue", Money),
        ["refunds"] = ("Refunds", Money),
        ["revenueGained"] = ("Revenue gained", Money),
        ["visitsPerClick"] = ("Visits per click", Rate),
        ["bounceRate"] = ("Bounce rate", Rate),
        ["conversionRate"] = ("Conversion rate", Rate),
        ["pagesPerVisit"] = ("Pages per visit", OneDigit),
        ["secondsPerVisit"] = ("Time per visit", Time),
        ["averageOrder"] = ("Average order", Money),
        ["revenuePerVisit"] = ("Revenue per visit", Money),
        ["revenuePerVisitor"] = ("Revenue per visitor", Money),
        ["cost"] = ("Cost", Money),
        ["costPerClick"] = ("Cost per click", Money),
        ["costPerVisit"] = ("Cost per visit", Money),
        ["costPerConversion"] = ("Cost per conversion", Money),
        ["costPerThousandShown"] = ("Cost per thousand shown", Money),
        ["profit"] = ("Profit", Money),
        ["return"] = ("Return", Rate),
        ["shown"] = ("Shown", Count),
        ["sent"] = ("Sent", Count),
        ["delivered"] = ("Delivered", Count),
        ["opened"] = ("Opened", Count),
    };

    private const string Count = "N0";

    /// <summary>Whole, unless a model of credit shares them out.</summary>
    private const string Part = "#,0.#";
    private const string Gain = "+#,0.#;−#,0.#;0";
    private const string Rate = "rate";
    private const string Money = "money";
    private const string OneDigit = "N1";
    private const string Time = "time";
    private const int SecondsAMinute = 60;

    /// <summary>What a measure is called.</summary>
    /// <param name="measure">See <see cref="ReportRows.IsMeasure"/>.</param>
    public static string LabelOf(string measure) => TextOf(measure).Label;

    /// <summary>Whether a measure grows with every day, so that its mean of a day says something.</summary>
    /// <param name="measure">See <see cref="ReportRows.IsMeasure"/>.</param>
    public static bool IsSum(string measure) =>
        TextOf(measure).Format is Count or Part
        && !ReportRows.IsOfVisitors(measure)
        && !measure.Equals("newVisitors", StringComparison.OrdinalIgnoreCase);

    /// <summary>What a sum comes to for each day.</summary>
    /// <param name="sum">Over all days.</param>
    /// <param name="days">How many, at least 1.</param>
    public static string EachDay(decimal sum, int days) => $"{(sum / days).ToString("#,0.#", CultureInfo.InvariantCulture)} a day";

    /// <summary>A figure; a dash where it can't be given.</summary>
    /// <param name="measure">See <see cref="ReportRows.IsMeasure"/>.</param>
    /// <param name="size">How large it is; null for none.</param>
    /// <param name="currency">Of the workspace, ISO 4217.</param>
    public static string Of(string measure, decimal? size, string currency) =>
        size is not { } known
            ? None
            : TextOf(measure).Format switch
            {
                Rate => RateOf(known),
                Money => MoneyOf(known, currency),
                Time => TimeOf(known),
                var format => known.ToString(format, CultureInfo.InvariantCulture),
            };

    /// <summary>
    /// What stands between two stations: how many of the first reached the second; empty where that says nothing. The conversion rate is
    /// of visits, whatever stands before it (rules, section 7).
    /// </summary>
    public static string Between(string before, string measure, Figures figures, string currency) =>
        (before, measure) switch
        {
            ("clicks", "visits") => RateOf(figures.VisitsPerClick),
            ("visits", "stayed") when figures.Visits > 0 => RateOf((decimal)figures.Stayed / figures.Visits),
            (_, "convertingVisits") => RateOf(figures.ConversionRate),
            (_, "revenue") when figures.AverageOrder is { } each => $"{MoneyOf(each, currency)} each",
            _ => "",
        };

    /// <summary>How a figure differs from another, in per cent of the other; empty where there is nothing to compare.</summary>
    public static string Difference(decimal? now, decimal? then)
    {
        if (now is not { } present || then is not { } past)
        {
            return "";
        }

        return present == past ? (present == 0 ? "" : "±0 %")
            : past == 0 ? "new"
            : $"{(present > past ? "+" : "−")}{RateOf(Math.Abs((present / past) - 1))}";
    }

    private static (string Label, string Format) TextOf(string measure) =>
        NamedMeasure.Parse(measure) is { } named ? (named.Name, Part) : Texts[measure];

    private static string RateOf(decimal? rate) => rate is { } known ? RateOf(known) : "";

    /// <summary>A rate in per cent with one digit, an exact half to the even one.</summary>
    private static string RateOf(decimal rate) =>
        Math.Round(rate * 100, 1, MidpointRounding.ToEven).ToString("0.0", CultureInfo.InvariantCulture) + " %";

    private static string MoneyOf(decimal amount, string currency)
    {
        string digits = Figures
            .Shown(Math.Abs(amount), currency)
            .ToString($"N{Currencies.DecimalsOf(currency)}", CultureInfo.InvariantCulture);
        return $"{(amount < 0 ? "-" : "")}{SignOf(currency)}{digits}";
    }

    private static string TimeOf(decimal seconds)
    {
        int whole = (int)Math.Round(seconds, MidpointRounding.AwayFromZero);
        return string.Create(CultureInfo.InvariantCulture, $"{whole / SecondsAMinute}:{whole % SecondsAMinute:00}");
    }

    /// <summary>The sign of the currencies most read here; any other goes by its code.</summary>
    private static string SignOf(string currency) =>
        currency switch
        {
            "EUR" => "€",
            "GBP" => "£",
            "USD" => "$",
            _ => $"{currency} ",
        };
}
