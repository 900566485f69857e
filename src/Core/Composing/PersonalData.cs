using System.Text.RegularExpressions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>Notices values that look like somebody's mail address or phone number: those don't belong in a URL.</summary>
public static partial class PersonalData
{
    /// <summary>Digits in a row, separators apart, from which free text may hold somebody's number (ours).</summary>
    private const int LongRun = 9;

    /// <summary>The rule a value breaks and a sentence about it, or null.</summary>
    public static (NoticeRule Rule, string Why)? Find(string value)
    {
        int digits = 0;
        foreach (char c in value)
        {
            digits += char.IsAsciiDigit(c) ? 1 : 0;
        }

        if (value.Contains('@', StringComparison.Ordinal) && MailAddress().IsMatch(value))
        {
            return (
                NoticeRules.PersonalData,
                "The value looks like a mail address; personal data doesn't belong in a link: use a code instead."
            );
        }

        if (digits < LongRun)
        {
            return null;
        }

        if (PhoneNumber().IsMatch(value))
        {
            return (
                NoticeRules.PersonalData,
                "The value looks like a phone number; personal data doesn't belong in a link: use a code instead."
            );
        }

        return LongDigits().IsMatch(value)
            ? (NoticeRules.LongNumber, "The value has a long run of digits; make sure it isn't somebody's number.")
            : null;
    }

    [GeneratedRegex(@"[^\s@]+@[^\s@.]+\.[^\s@]+", RegexOptions.CultureInvariant)]
    private static partial Regex MailAddress();

    /// <summary>An international number (ITU-T E.164: a plus and up to 15 digits), or digits grouped as a phone number is.</summary>
    [GeneratedRegex(
        @"(^|[^0-9])(\+[0-9][0-9 ()./_-]{7,18}[0-9]|\(?0[0-9]{1,4}\)?[ ./_-][0-9]{2,4}([ ./_-]?[0-9]{2,4}){1,3})($|[^0-9])",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex PhoneNumber();

    [GeneratedRegex("[0-9]{9,}", RegexOptions.CultureInvariant)]
    private static partial Regex LongDigits();
}
