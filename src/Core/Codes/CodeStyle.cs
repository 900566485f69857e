namespace PreciseBeacon.Core.Codes;

/// <summary>How a code is to look.</summary>
/// <param name="Millimetres">Its side on paper, quiet zone included.</param>
/// <param name="DotsPerInch">Dots of the printer or screen, for pictures made of dots.</param>
/// <param name="Correction">The correction level; null for M, and H under a logo.</param>
/// <param name="Compact">The address in capitals, which a code can hold more densely.</param>
/// <param name="Dark">Colour of the modules, <c>#RRGGBB</c>.</param>
/// <param name="Light">Colour of the ground, <c>#RRGGBB</c>.</param>
/// <param name="Caption">Text under the code; null or empty for none.</param>
/// <param name="Logo">A PNG in the middle; null for none.</param>
/// <param name="LogoShare">The logo's side as a part of the code's without its quiet zone, 0.05 to 0.5.</param>
public sealed record CodeStyle(
    decimal Millimetres = 30,
    int DotsPerInch = 300,
    CorrectionLevel? Correction = null,
    bool Compact = false,
    string Dark = "#000000",
    string Light = "#FFFFFF",
    string? Caption = null,
    byte[]? Logo = null,
    decimal LogoShare = 0.2m
)
{
    /// <summary>The level that is used.</summary>
    public CorrectionLevel Level => Correction ?? (Logo is null ? CorrectionLevel.M : CorrectionLevel.H);
}

/// <summary>The address of a short link in capitals: scheme and host ignore case (RFC 3986, 6.2.2.1), and so do our slugs.</summary>
public static class CompactForm
{
    public static string Of(string shortUrl) => shortUrl.ToUpperInvariant();

    /// <summary>True when it makes the code itself smaller; a code that stays as large gains nothing from it.</summary>
    public static bool Saves(string shortUrl, CorrectionLevel level) =>
        CodeMatrix.Of(Of(shortUrl), level).Version < CodeMatrix.Of(shortUrl, level).Version;
}

/// <summary>How much of a code may be spoilt: 7, 15, 25 or 30 % of its codewords (ISO/IEC 18004).</summary>
public enum CorrectionLevel
{
    L,
    M,
    Q,
    H,
}
