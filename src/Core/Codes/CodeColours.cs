using System.Globalization;
using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>Two colours of a code, and whether a reader can tell them apart.</summary>
public static class CodeColours
{
    /// <summary>Contrast below which a code gets a look (common practice).</summary>
    public const double LeastContrast = 4;

    /// <summary>A colour written as <c>#RRGGBB</c>; null when it is written otherwise.</summary>
    public static SKColor? Read(string text) =>
        text.Length == 7
        && text[0] == '#'
        && uint.TryParse(text.AsSpan(1), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out uint rgb)
            ? new SKColor(0xFF000000 | rgb)
            : null;

    /// <summary>Contrast of two colours, 1 to 21 (WCAG 2.2, contrast ratio).</summary>
    public static double Contrast(SKColor one, SKColor other)
    {
        double a = Luminance(one);
        double b = Luminance(other);
        return (Math.Max(a, b) + 0.05) / (Math.Min(a, b) + 0.05);
    }

    /// <summary>Relative luminance, 0 to 1 (WCAG 2.2).</summary>
    public static double Luminance(SKColor colour) =>
        (0.2126 * Linear(colour.Red)) + (0.7152 * Linear(colour.Green)) + (0.0722 * Linear(colour.Blue));

    private static double Linear(byte channel)
    {
        double part = channel / 255d;
        return part <= 0.04045 ? part / 12.92 : Math.Pow((part + 0.055) / 1.055, 2.4);
    }
}
