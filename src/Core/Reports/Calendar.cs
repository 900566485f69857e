using System.Globalization;

namespace PreciseBeacon.Core.Reports;

/// <summary>What a day is called when reports gather by day, weekday, week or month.</summary>
public static class Calendar
{
    /// <summary>Days, weeks and months by their first day as <c>yyyy-MM-dd</c>; weekdays from 1, Monday, to 7. Weeks begin on Monday (ISO 8601).</summary>
    /// <exception cref="ArgumentOutOfRangeException">The kind is not one of the calendar's.</exception>
    public static string NameOf(RowKind kind, DateOnly day) =>
        kind switch
        {
            RowKind.Weekday => WeekdayOf(day).ToString(CultureInfo.InvariantCulture),
            _ => Text(FirstDayOf(kind, day)),
        };

    /// <summary>The first day of the day, week or month that a day is in.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The kind is none of these.</exception>
    public static DateOnly FirstDayOf(RowKind kind, DateOnly day) =>
        kind switch
        {
            RowKind.Day => day,
            RowKind.Week => day.AddDays(1 - WeekdayOf(day)),
            RowKind.Month => new DateOnly(day.Year, day.Month, 1),
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "Not of the calendar."),
        };

    private static int WeekdayOf(DateOnly day) => day.DayOfWeek == DayOfWeek.Sunday ? 7 : (int)day.DayOfWeek;

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
