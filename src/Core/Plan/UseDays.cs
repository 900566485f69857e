namespace PreciseBeacon.Core.Plan;

/// <summary>Weekdays on which a placement may be used, by their ISO 8601 numbers: Monday is 1, Sunday 7. None means every day.</summary>
public static class UseDays
{
    private static readonly string[] Names = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];

    /// <summary>Reads days as people write them: <c>Mon, Thu</c>, <c>1 4</c>, <c>weekend</c>, <c>weekdays</c>.</summary>
    /// <returns>Their numbers in order, none for an empty text; null when a word is no day.</returns>
    public static IReadOnlyList<int>? Read(string text)
    {
        var days = new SortedSet<int>();
        foreach (string word in text.ToLowerInvariant().Split([' ', ',', ';', '/', '&', '+'], StringSplitOptions.RemoveEmptyEntries))
        {
            int named = word.Length >= 2 ? Array.FindIndex(Names, n => n.StartsWith(word.TrimEnd('.', 's'), StringComparison.Ordinal)) : -1;
            if (word is "weekend" or "weekends")
            {
                days.UnionWith([6, 7]);
            }
            else if (word is "weekday" or "weekdays")
            {
                days.UnionWith([1, 2, 3, 4, 5]);
            }
            else if (word is [>= '1' and <= '7'])
            {
                days.Add(word[0] - '0');
            }
            else if (named >= 0)
            {
                days.Add(named + 1);
            }
            else if (word is not "and")
            {
                return null;
            }
        }

        return [.. days];
    }

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
