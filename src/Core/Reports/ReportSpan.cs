namespace PreciseBeacon.Core.Reports;

/// <summary>Spans of reports that move with the day, by the code an address has for them (common practice).</summary>
public static class ReportSpan
{
    /// <summary>The span of a report that asks for none.</summary>
    public const string Usual = "30d";

    /// <summary>Every code, in the order they are offered.</summary>
    public static IReadOnlyList<string> Codes { get; } =
    ["today", "yesterday", "7d", Usual, "90d", "180d", "365d", "month", "lastMonth", "year"];

    /// <summary>The first and last day a code means; null for a code that is none.</summary>
    /// <param name="code">One of <see cref="Codes"/>, in exactly these letters.</param>
    /// <param name="today">The day it is where the report is read.</param>
    public static (DateOnly From, DateOnly To)? Of(string code, DateOnly today) =>
        code switch
        {
            "today" => (today, today),
            "yesterday" => (today.AddDays(-1), today.AddDays(-1)),
            "month" => (FirstOfMonth(today), today),
            "lastMonth" => (FirstOfMonth(today).AddMonths(-1), FirstOfMonth(today).AddDays(-1)),
            "year" => (new DateOnly(today.Year, 1, 1), today),
            _ when Codes.Contains(code) => (
                today.AddDays(1 - int.Parse(code.AsSpan(0, code.Length - 1), System.Globalization.CultureInfo.InvariantCulture)),
                today
            ),
            _ => null,
        };

    private static DateOnly FirstOfMonth(DateOnly day) => new(day.Year, day.Month, 1);
}
