namespace PreciseBeacon.Core.Plan;

/// <summary>Weekdays on which a placement may be used, by their ISO 8601 numbers: Monday is 1, Sunday 7. None means every day.</summary>
public static class UseDays
{
    /// <summary>The number of a day's weekday.</summary>
    public static int NumberOf(DateOnly day) => day.DayOfWeek == DayOfWeek.Sunday ? 7 : (int)day.DayOfWeek;

    /// <summary>True when the placement may be used on a day.</summary>
    public static bool Allow(IReadOnlyCollection<int> days, DateOnly day) => days.Count == 0 || days.Contains(NumberOf(day));

    /// <summary>The first day from a given one on which it may be used.</summary>
    public static DateOnly NextFrom(IReadOnlyCollection<int> days, DateOnly day)
    {
        while (!Allow(days, day))
        {
            day = day.AddDays(1);
        }

        return day;
    }
}
