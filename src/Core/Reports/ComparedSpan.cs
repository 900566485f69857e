using System.Globalization;

namespace PreciseBeacon.Core.Reports;

/// <summary>The span a report is compared with.</summary>
public static class ComparedSpan
{
    private const string Before = "before";
    private const string YearBefore = "yearBefore";

    /// <summary>The first and last day to compare with; null where the word is none.</summary>
    /// <param name="word"><c>before</c> for as many days right before, <c>yearBefore</c> for the same days a year earlier, or two days as <c>yyyy-MM-dd,yyyy-MM-dd</c>.</param>
    /// <param name="from">First day of the report.</param>
    /// <param name="to">Its last day.</param>
    public static (DateOnly From, DateOnly To)? Of(string word, DateOnly from, DateOnly to)
    {
        if (word.Equals(Before, StringComparison.OrdinalIgnoreCase))
        {
            int days = to.DayNumber - from.DayNumber + 1;
            return from.DayNumber < days ? null : (from.AddDays(-days), from.AddDays(-1));
        }

        if (word.Equals(YearBefore, StringComparison.OrdinalIgnoreCase))
        {
            // The 29th of February is compared with the 28th.
            return from.Year > 1 ? (from.AddYears(-1), to.AddYears(-1)) : null;
        }

        return
            word.Split(',') is [var first, var last]
            && DateOnly.TryParseExact(first, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var begins)
            && DateOnly.TryParseExact(last, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var ends)
            && begins <= ends
            ? (begins, ends)
            : null;
    }
}
