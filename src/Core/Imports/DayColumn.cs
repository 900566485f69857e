using System.Globalization;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Imports;

/// <summary>
/// Reads days as they come: ISO 8601, <c>20261130</c>, <c>30.11.2026</c>, <c>30/11/2026</c> and <c>11/30/2026</c>. Whether day or month
/// stands first with a slash is found out from the whole column; a day that could be two is never guessed.
/// </summary>
public sealed partial class DayColumn
{
    private const int Months = 12;

    private readonly bool? _dayFirst;

    /// <param name="texts">All cells of the column.</param>
    /// <param name="chosen">True where somebody said that the day stands first, false for the month; null to find it out.</param>
    public DayColumn(IEnumerable<string> texts, bool? chosen = null)
    {
        if (chosen is not null)
        {
            _dayFirst = chosen;
            return;
        }

        var said = texts.Select(DayFirstIn).OfType<bool>().Distinct().Take(2).ToList();
        _dayFirst = said is [var only] ? only : null;
    }

    /// <summary>Reads one cell.</summary>
    /// <returns>The day, or why it can't be read.</returns>
    public (DateOnly? Day, ImportProblem? Problem) Read(string text)
    {
        string trimmed = text.Trim();
        if (trimmed.Length == 0)
        {
            return (null, ImportProblem.DayMissing);
        }

        if (Iso().Match(trimmed) is { Success: true } iso)
        {
            return Of(iso.Groups["y"].Value, iso.Groups["m"].Value, iso.Groups["d"].Value);
        }

        if (Dotted().Match(trimmed) is { Success: true } dotted)
        {
            return Of(dotted.Groups["y"].Value, dotted.Groups["m"].Value, dotted.Groups["d"].Value);
        }

        if (Slashed().Match(trimmed) is not { Success: true } slashed)
        {
            return (null, ImportProblem.DayUnreadable);
        }

        string first = slashed.Groups["a"].Value,
            second = slashed.Groups["b"].Value;
        bool same = int.Parse(first, CultureInfo.InvariantCulture) == int.Parse(second, CultureInfo.InvariantCulture);
        return (DayFirstIn(trimmed) ?? _dayFirst ?? (same ? true : null)) switch
        {
            true => Of(slashed.Groups["y"].Value, second, first),
            false => Of(slashed.Groups["y"].Value, first, second),
            null => (null, ImportProblem.DayAmbiguous),
        };
    }

    private static (DateOnly?, ImportProblem?) Of(string year, string month, string day) =>
        DateOnly.TryParseExact(
            $"{year}-{month.PadLeft(2, '0')}-{day.PadLeft(2, '0')}",
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var found
        )
            ? (found, null)
            : (null, ImportProblem.DayUnreadable);

    /// <summary>Whether the day stands first in what leaves no doubt; null for anything else.</summary>
    private static bool? DayFirstIn(string text)
    {
        if (Slashed().Match(text.Trim()) is not { Success: true } match)
        {
            return null;
        }

        int first = int.Parse(match.Groups["a"].Value, CultureInfo.InvariantCulture),
            second = int.Parse(match.Groups["b"].Value, CultureInfo.InvariantCulture);
        return first > Months ? true
            : second > Months ? false
            : null;
    }

    [GeneratedRegex(
        @"^(?<y>\d{4})(?<s>[-/.]?)(?<m>\d{2})\k<s>(?<d>\d{2})([T ][0-9:.]+(Z|[+-]\d{2}:?\d{2})?)?$",
        RegexOptions.CultureInvariant,
        100
    )]
    private static partial Regex Iso();

    [GeneratedRegex(@"^(?<d>\d{1,2})\.\s?(?<m>\d{1,2})\.\s?(?<y>\d{4})$", RegexOptions.CultureInvariant, 100)]
    private static partial Regex Dotted();

    [GeneratedRegex(@"^(?<a>\d{1,2})[/-](?<b>\d{1,2})[/-](?<y>\d{4})$", RegexOptions.CultureInvariant, 100)]
    private static partial Regex Slashed();
}
