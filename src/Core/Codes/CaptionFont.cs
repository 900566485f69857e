using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>The typeface of captions, shipped with the application; its outlines go into every format, so that no other machine needs it.</summary>
public static class CaptionFont
{
    private const int MostLetters = 1_000;

    private static readonly SKTypeface Face = Load();

    /// <summary>Whether every sign of a text can be drawn.</summary>
    public static bool Has(string text)
    {
        using var font = At(10);
        return font.ContainsGlyphs(text);
    }

    /// <summary>Width of a text at a size, in the unit of the size.</summary>
    public static float Width(string text, float size)
    {
        using var font = At(size);
        return font.MeasureText(text);
    }

    /// <summary>The outline of a line, set around the middle.</summary>
    /// <param name="text">One line.</param>
    /// <param name="size">Size of the type.</param>
    /// <param name="middle">Where the middle of the line is.</param>
    /// <param name="baseline">Where it stands.</param>
    public static SKPath Outline(string text, float size, float middle, float baseline)
    {
        using var font = At(size);
        return font.GetTextPath(text, new SKPoint(middle - (font.MeasureText(text) / 2), baseline));
    }

    /// <summary>Writes a line as text, so that it can be searched for; where the format can, the signs used go along.</summary>
    /// <param name="canvas">What it is written on.</param>
    /// <param name="text">One line.</param>
    /// <param name="left">Where it begins.</param>
    /// <param name="baseline">Where it stands.</param>
    /// <param name="size">Size of the type.</param>
    /// <param name="paint">Its colour.</param>
    public static void Write(SKCanvas canvas, string text, float left, float baseline, float size, SKPaint paint)
    {
        using var font = At(size);
        canvas.DrawText(text, left, baseline, SKTextAlign.Left, font, paint);
    }

    /// <summary>Breaks a text at its spaces into lines that fit; what is left after the last is cut with an ellipsis.</summary>
    public static IReadOnlyList<string> Lines(string text, float size, float width, int most)
    {
        var lines = new List<string>();
        string line = "";
        string[] words = text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        for (int i = 0; i < words.Length; i++)
        {
            string longer = line.Length == 0 ? words[i] : $"{line} {words[i]}";
            if (Width(longer, size) <= width)
            {
                line = longer;
                continue;
            }

            if (line.Length > 0)
            {
                lines.Add(line);
            }

            line = words[i];
            if (lines.Count == most)
            {
                lines[^1] = Cut($"{lines[^1]} {line}", size, width);
                return lines;
            }
        }

        if (line.Length > 0)
        {
            lines.Add(line);
        }

        return [.. lines.Select(l => Cut(l, size, width))];
    }

    /// <summary>A line that fits; what does not is cut with an ellipsis.</summary>
    public static string Cut(string line, float size, float width)
    {
        // No line on paper has more letters, and measuring takes longer the more there are.
        string shown = line.Length <= MostLetters ? line : line[..MostLetters];
        using var font = At(size);
        if (shown.Length == line.Length && font.MeasureText(shown) <= width)
        {
            return line;
        }

        // The longest beginning that fits with its ellipsis, found by halving.
        var (fits, tooLong) = (1, shown.Length + 1);
        while (tooLong - fits > 1)
        {
            int middle = (fits + tooLong) / 2;
            (fits, tooLong) = font.MeasureText($"{shown[..middle]}…") <= width ? (middle, tooLong) : (fits, middle);
        }

        return $"{shown[..fits]}…";
    }

    private static SKFont At(float size) =>
        new(Face, size)
        {
            Hinting = SKFontHinting.None,
            LinearMetrics = true,
            Subpixel = true,
        };

    private static SKTypeface Load()
    {
        using var stream = typeof(CaptionFont).Assembly.GetManifestResourceStream("caption-font.ttf")
            ?? throw new InvalidOperationException("The typeface of captions is not embedded.");
        return SKTypeface.FromStream(stream) ?? throw new InvalidOperationException("The typeface of captions can't be read.");
    }
}
