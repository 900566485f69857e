namespace PreciseBeacon.Core.Codes;

/// <summary>The address of a short link in capitals: scheme and host ignore case (RFC 3986, 6.2.2.1), and so do our slugs.</summary>
public static class CompactForm
{
    public static string Of(string shortUrl) => shortUrl.ToUpperInvariant();

    /// <summary>True when it makes the code itself smaller; a code that stays as large gains nothing from it.</summary>
    public static bool Saves(string shortUrl, CorrectionLevel level) =>
        CodeMatrix.Of(Of(shortUrl), level).Version < CodeMatrix.Of(shortUrl, level).Version;
}
