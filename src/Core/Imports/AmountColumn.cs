using System.Globalization;
using PreciseBeacon.Core.Costs;

namespace PreciseBeacon.Core.Imports;

/// <summary>
/// Reads amounts as people and systems write them: <c>1,234.50</c>, <c>1.234,50</c>, <c>€ 1 234,50</c>. Which sign parts the decimals is
/// found out from the whole column; an amount that could be two is never guessed.
/// </summary>
public sealed class AmountColumn
{
    private const int GroupDigits = 3;

    private readonly char? _decimal;

    /// <param name="texts">All cells of the column.</param>
    /// <param name="chosen">“.” or “,” where somebody said so; null to find it out.</param>
    public AmountColumn(IEnumerable<string> texts, char? chosen = null)
    {
        if (chosen is not null)
        {
            _decimal = chosen;
            return;
        }

        var said = texts.Select(t => DecimalOf(Bare(t))).OfType<char>().Distinct().Take(2).ToList();
        _decimal = said is [var only] ? only : null;
    }

    /// <summary>Reads one cell.</summary>
    /// <returns>The amount, or why it can't be read; both null for an empty cell.</returns>
    public (decimal? Amount, ImportProblem? Problem) Read(string text)
    {
        string bare = Bare(text);
        if (bare.Length == 0)
        {
            return (null, text.Trim().Length == 0 ? null : ImportProblem.AmountUnreadable);
        }

        bool hasSign = bare.Any(c => c is '.' or ',');
        if (hasSign && (_decimal ?? DecimalOf(bare)) is null)
        {
            return (null, ImportProblem.AmountAmbiguous);
        }

        char point = DecimalOf(bare) ?? _decimal ?? '.';
        if (_decimal is { } column && point != column)
        {
            return (null, ImportProblem.AmountAmbiguous);
        }

        string plain = bare.Replace(point == '.' ? "," : ".", "", StringComparison.Ordinal).Replace(point, '.');
        return
            decimal.TryParse(
                plain,
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out decimal amount
            )
            && Math.Abs(amount) <= CostRates.LargestAmount
            ? amount < 0
                ? (null, ImportProblem.AmountNegative)
                : (amount, null)
            : (null, ImportProblem.AmountUnreadable);
    }

    /// <summary>The amount without the currency's sign or code, blanks and apostrophes between groups.</summary>
    private static string Bare(string text) =>
        string.Concat(text.Where(c => char.IsAsciiDigit(c) || c is '.' or ',' or '-' or '−')).Replace('−', '-').Trim('.', ',');

    /// <summary>The sign that parts the decimals, where the text itself leaves no doubt; null for none, or for doubt.</summary>
    private static char? DecimalOf(string bare)
    {
        int point = bare.LastIndexOf('.'),
            comma = bare.LastIndexOf(',');
        if (point >= 0 && comma >= 0)
        {
            return point > comma ? '.' : ',';
        }

        int at = Math.Max(point, comma);
        if (at < 0)
        {
            return null;
        }

        char sign = bare[at];
        char other = sign == '.' ? ',' : '.';
        if (bare.IndexOf(sign) != at)
        {
            return other; // several of one sign part groups
        }

        int before = bare[..at].TrimStart('-').Length;
        return bare.Length - at - 1 != GroupDigits || before is 0 or > GroupDigits || bare[..at].TrimStart('-')[0] == '0' ? sign : null;
    }
}
