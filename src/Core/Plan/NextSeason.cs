using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Plan;

/// <summary>A campaign planned anew for a later season: every day moves by the same number of days (ours).</summary>
/// <param name="From">First day of the campaign that is taken up again.</param>
/// <param name="To">First day of the new one.</param>
public readonly record struct NextSeason(DateOnly From, DateOnly To)
{
    /// <summary>The season a year later; 29 February is followed by 28 February.</summary>
    public static NextSeason YearAfter(DateOnly starts) => new(starts, starts.AddYears(1));

    /// <summary>How many days everything moves; negative when the new season lies before.</summary>
    public int Days => To.DayNumber - From.DayNumber;

    /// <summary>A day of the old season as a day of the new one, kept inside the calendar; null stays null.</summary>
    public DateOnly? Shift(DateOnly? day) =>
        day is { } known
            ? DateOnly.FromDayNumber(Math.Clamp(known.DayNumber + Days, DateOnly.MinValue.DayNumber, DateOnly.MaxValue.DayNumber))
            : null;

    /// <summary>A name with the old first day rewritten as the new one wherever it stands by itself, in the form it was written in.</summary>
    public string Rename(string name)
    {
        foreach (var form in Enum.GetValues<DateForm>())
        {
            string before = DateText.Write(From, form);
            for (
                int at = name.IndexOf(before, StringComparison.OrdinalIgnoreCase);
                at >= 0;
                at = name.IndexOf(before, at + 1, StringComparison.OrdinalIgnoreCase)
            )
            {
                if (StandsAlone(name, at, before.Length))
                {
                    return name[..at] + DateText.Write(To, form) + name[(at + before.Length)..];
                }
            }
        }

        // People also write the bare year, as in “Orchid Week 2026”.
        string year = From.Year.ToString("0000", System.Globalization.CultureInfo.InvariantCulture);
        int last = name.LastIndexOf(year, StringComparison.Ordinal);
        return last >= 0 && StandsAlone(name, last, year.Length)
            ? name[..last] + To.Year.ToString("0000", System.Globalization.CultureInfo.InvariantCulture) + name[(last + year.Length)..]
            : name;
    }

    private static bool StandsAlone(string name, int at, int length) =>
        (at == 0 || !char.IsLetterOrDigit(name[at - 1])) && (at + length == name.Length || !char.IsLetterOrDigit(name[at + length]));
}
