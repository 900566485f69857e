namespace PreciseBeacon.Core.Traffic;

/// <summary>The language a browser asks for.</summary>
public static class BrowserLanguage
{
    private const int LongestSubtag = 8;

    /// <summary>
    /// The primary subtag of the first language of an <c>Accept-Language</c> header, in lower case (RFC 9110, section 12.5.4;
    /// RFC 5646, section 2.2.1); empty where there is none. Browsers put the language their user prefers first.
    /// </summary>
    public static string Of(string acceptLanguage)
    {
        var first = acceptLanguage.AsSpan().TrimStart();
        int end = first.IndexOfAny(",;-_ ");
        var subtag = end < 0 ? first : first[..end];
        return subtag.Length is >= 2 and <= LongestSubtag && IsLetters(subtag) ? subtag.ToString().ToLowerInvariant() : "";
    }

    private static bool IsLetters(ReadOnlySpan<char> text)
    {
        foreach (char c in text)
        {
            if (!char.IsAsciiLetter(c))
            {
                return false;
            }
        }

        return true;
    }
}
