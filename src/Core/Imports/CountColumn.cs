using System.Globalization;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Core.Imports;

/// <summary>
/// Reads counts as people and systems write them: <c>1234</c>, <c>1,234</c>, <c>1.234</c>, <c>1 234</c>, <c>1234.0</c>. A count is whole, so
/// a sign before three digits parts groups.
/// </summary>
public static partial class CountColumn
{
    /// <summary>The largest count that is believed (ours).</summary>
    public const long Largest = 1_000_000_000_000;

    /// <summary>Reads one cell.</summary>
    /// <returns>The count, or why it can't be read; both null for an empty cell or a dash.</returns>
    public static (long? Count, ImportProblem? Problem) Read(string text)
    {
        string bare = string.Concat(text.Where(c => !char.IsWhiteSpace(c) && c is not ('\'' or '’'))).Replace('−', '-');
        if (bare is "" or "-" or "–" or "—")
        {
            return (null, null);
        }

        if (bare[0] == '-' && Whole().IsMatch(bare[1..]))
        {
            return (null, ImportProblem.CountNegative);
        }

        return
            Whole().Match(bare) is { Success: true } match
            && long.TryParse(
                string.Concat(match.Groups["n"].Value.Where(char.IsAsciiDigit)),
                NumberStyles.None,
                CultureInfo.InvariantCulture,
                out long count
            )
            && count <= Largest
            ? (count, null)
            : (null, ImportProblem.CountUnreadable);
    }

    /// <summary>Digits alone or in groups of three by one kind of sign, and decimals that are all 0.</summary>
    [GeneratedRegex(
        @"^(?:(?<n>\d+)|(?<n>\d{1,3}(?:,\d{3})+)|(?<n>\d{1,3}(?:\.\d{3})+))(?:[.,]0{1,2})?$",
        RegexOptions.CultureInvariant,
        100
    )]
    private static partial Regex Whole();
}
