using System.Globalization;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Writes dates in our small set of forms and reads them back.</summary>
public static class DateText
{
    /// <summary>The date in a form.</summary>
    public static string Write(DateOnly date, DateForm form) =>
        form switch
        {
            DateForm.PlainDay => date.ToString("yyyyMMdd", CultureInfo.InvariantCulture),
            DateForm.Day => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateForm.Month => date.ToString("yyyy-MM", CultureInfo.InvariantCulture),
            DateForm.Quarter => string.Create(CultureInfo.InvariantCulture, $"{date.Year:0000}q{(date.Month + 2) / 3}"),
            _ => string.Create(CultureInfo.InvariantCulture, $"{ISOWeek.GetYear(date):0000}w{ISOWeek.GetWeekOfYear(date):00}"),
        };

    /// <summary>The date as sentences say it, such as 3 Dec 2026.</summary>
    public static string Say(DateOnly date) => date.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A span of days as sentences say it; either end may be open.</summary>
    public static string Say(DateOnly? first, DateOnly? last) =>
        (first, last) switch
        {
            ({ } from, { } to) => $"{Say(from)} to {Say(to)}",
            ({ } from, null) => $"from {Say(from)}",
            (null, { } to) => $"until {Say(to)}",
            _ => "always",
        };

    /// <summary>The first and last day a text stands for in a form; null when it isn't written so.</summary>
    public static (DateOnly First, DateOnly Last)? Read(string text, DateForm form)
    {
        if (FirstDay(text, form) is not { } first || !Write(first, form).Equals(text, StringComparison.OrdinalIgnoreCase))
        {
            return null;
        }

        return (
            first,
            form switch
            {
                DateForm.Month => first.AddMonths(1).AddDays(-1),
                DateForm.Quarter => first.AddMonths(3).AddDays(-1),
                DateForm.Week => first.AddDays(6),
                _ => first,
            }
        );
    }

    /// <summary>The first day a text stands for in whichever form fits, finest forms first; null when none does.</summary>
    public static (DateOnly First, DateForm Form)? Read(string text)
    {
        foreach (var form in Enum.GetValues<DateForm>())
        {
            if (Read(text, form) is { } found)
            {
                return (found.First, form);
            }
        }

        return null;
    }

    /// <summary>True where a date known in one form can be written in another: a month has no day, a week no month.</summary>
    public static bool Holds(DateForm known, DateForm wanted) =>
        known switch
        {
            DateForm.PlainDay or DateForm.Day => true,
            DateForm.Month => wanted is DateForm.Month or DateForm.Quarter,
            _ => known == wanted,
        };

    private static DateOnly? FirstDay(string text, DateForm form)
    {
        switch (form)
        {
            case DateForm.PlainDay:
                return Exact("yyyyMMdd");
            case DateForm.Day:
                return Exact("yyyy-MM-dd");
            case DateForm.Month:
                return Exact("yyyy-MM");
            case DateForm.Quarter:
                return Parts('q') is var (year, quarter) && quarter is >= 1 and <= 4 ? new DateOnly(year, (quarter * 3) - 2, 1) : null;
            default:
                return Parts('w') is var (weekYear, week) && week >= 1 && week <= ISOWeek.GetWeeksInYear(weekYear)
                    ? DateOnly.FromDateTime(ISOWeek.ToDateTime(weekYear, week, DayOfWeek.Monday))
                    : null;
        }

        DateOnly? Exact(string pattern) =>
            DateOnly.TryParseExact(text, pattern, CultureInfo.InvariantCulture, DateTimeStyles.None, out var date) ? date : null;

        (int Year, int Number)? Parts(char between) =>
            text.Length >= 6
            && char.ToLowerInvariant(text[4]) == between
            && int.TryParse(text.AsSpan(0, 4), NumberStyles.None, CultureInfo.InvariantCulture, out int year)
            && year is >= 1 and < 9_999
            && int.TryParse(text.AsSpan(5), NumberStyles.None, CultureInfo.InvariantCulture, out int number)
                ? (year, number)
                : null;
    }
}

/// <summary>How a date is written. Weeks are those of ISO 8601.</summary>
public enum DateForm
{
    /// <summary><c>20260301</c></summary>
    PlainDay,

    /// <summary><c>2026-03-01</c></summary>
    Day,

    /// <summary><c>2026-03</c></summary>
    Month,

    /// <summary><c>2026q1</c></summary>
    Quarter,

    /// <summary><c>2026w09</c></summary>
    Week,
}
