using System.Globalization;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Codes;

/// <summary>What can be said about a code before anybody points a phone at it.</summary>
public static class CodeJudge
{
    /// <summary>Smallest side on paper (common practice).</summary>
    public const decimal LeastMillimetres = 20;

    /// <summary>A code is read from about ten times its side away (common practice).</summary>
    private const decimal ReadingTimesSide = 10;

    /// <summary>Fewer dots to a module than this, and a printer's smear closes the light ones (common practice).</summary>
    private const int FewestDotsPerModule = 3;

    /// <summary>Judges a code.</summary>
    /// <param name="drawing">The code.</param>
    /// <param name="shortUrl">The short link in it, as it is written in small letters; null for a long link, whose path is another in capitals.</param>
    public static CodeFacts Judge(CodeDrawing drawing, string? shortUrl)
    {
        var style = drawing.Style;
        var size = CodeSize.Of(drawing.Width, style.Millimetres, style.DotsPerInch);
        double contrast = CodeColours.Contrast(drawing.Dark, drawing.Light);
        return new CodeFacts(
            drawing.Says,
            drawing.Matrix.Version,
            style.Level,
            drawing.Width,
            Math.Round(style.Millimetres / drawing.Width, 2),
            size.DotsPerModule,
            size.Dots,
            size.Millimetres,
            drawing.HeightMillimetres,
            size.Millimetres * ReadingTimesSide,
            Math.Round(contrast, 1),
            shortUrl is not null && CompactForm.Saves(shortUrl, style.Level),
            drawing.Logo?.Lost,
            drawing.Logo?.Repairable,
            [.. Notices(drawing, size, contrast)]
        );
    }

    private static IEnumerable<Notice> Notices(CodeDrawing drawing, CodeSize size, double contrast)
    {
        var style = drawing.Style;
        if (CodeColours.Luminance(drawing.Dark) >= CodeColours.Luminance(drawing.Light))
        {
            yield return Error(
                "code-inverted",
                "The foreground is lighter than the background, which many readers can’t read; choose a darker foreground."
            );
        }
        else if (contrast < CodeColours.LeastContrast)
        {
            yield return Warning(
                "code-contrast",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The contrast is too low ({contrast:0.0} to 1; a code needs at least {CodeColours.LeastContrast:0} to 1); choose a darker foreground."
                )
            );
        }

        if (style.Millimetres < LeastMillimetres)
        {
            yield return Warning(
                "code-small",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"At {style.Millimetres:0.##} mm it is hard to read on paper; make it {LeastMillimetres:0} mm or larger."
                )
            );
        }

        if (size.DotsPerModule < FewestDotsPerModule)
        {
            yield return Warning(
                "code-dots",
                $"Only {size.DotsPerModule} {(size.DotsPerModule == 1 ? "dot" : "dots")} to a module at {style.DotsPerInch} dpi; print it larger or at a higher resolution."
            );
        }

        if (style.Caption is { Length: > 0 } caption && !CaptionFont.Has(caption))
        {
            yield return Warning(
                "caption-signs",
                "The caption has characters its typeface lacks, which would print as empty boxes; use other letters or remove them."
            );
        }

        if (style.Logo is null)
        {
            yield break;
        }

        if (drawing.Logo is not { } logo)
        {
            yield return Error("logo-in-the-way", "A logo of this size doesn't fit the code; make it smaller.");
        }
        else if (logo.Lost > logo.Repairable)
        {
            yield return Error(
                "logo-large",
                $"The logo hides {logo.Lost} codewords of one block, of which {logo.Repairable} can be corrected; make it smaller{(style.Level == CorrectionLevel.H ? "" : " or take more correction")}."
            );
        }
        else if (logo.Lost * 2 > logo.Repairable)
        {
            yield return Warning(
                "logo-heavy",
                $"The logo uses {logo.Lost} of the {logo.Repairable} codewords that can be corrected; little is left for dirt and creases."
            );
        }
    }

    private static Notice Error(string rule, string message) => new(rule, Severity.Error, null, message);

    private static Notice Warning(string rule, string message) => new(rule, Severity.Warning, null, message);
}
