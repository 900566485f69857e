using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>A code as it is to be drawn, in modules: what every format is written from.</summary>
public sealed class CodeDrawing
{
    /// <summary>Room a logo keeps free around itself, in modules.</summary>
    private const float LogoMargin = 0.5f;
    private const float CaptionPart = 0.075f;
    private const float LinePitch = 1.25f;
    private const int MostLines = 3;

    private CodeDrawing(string says, CodeStyle style, CodeMatrix matrix)
    {
        (Says, Style, Matrix) = (says, style, matrix);
        Dark = CodeColours.Read(style.Dark) ?? SKColors.Black;
        Light = CodeColours.Read(style.Light) ?? SKColors.White;
        Logo = style.Logo is null ? null : LogoPlace.Of(matrix.Version, style.Level, style.LogoShare);
        float size = matrix.Side * CaptionPart;
        Caption = string.IsNullOrWhiteSpace(style.Caption)
            ? []
            : CaptionFont.Lines(style.Caption, size, matrix.Side - (2 * CodeMatrix.QuietZone), MostLines);
        Height = matrix.Side + (Caption.Count == 0 ? 0 : (int)Math.Ceiling((Caption.Count * size * LinePitch) + (size * 0.75f)));
    }

    /// <summary>What the code says.</summary>
    public string Says { get; }

    public CodeStyle Style { get; }

    public CodeMatrix Matrix { get; }

    public SKColor Dark { get; }

    public SKColor Light { get; }

    /// <summary>Where the logo lies; null without one, or where no place is clear for it.</summary>
    public LogoPlace? Logo { get; }

    /// <summary>Lines under the code.</summary>
    public IReadOnlyList<string> Caption { get; }

    /// <summary>Width in modules.</summary>
    public int Width => Matrix.Side;

    /// <summary>Height in modules, caption included.</summary>
    public int Height { get; }

    /// <summary>Height on paper, in millimetres.</summary>
    public decimal HeightMillimetres => Style.Millimetres * Height / Width;

    /// <summary>Lays a code out.</summary>
    /// <exception cref="CodeTooLongException">No version holds the text at this level.</exception>
    public static CodeDrawing Of(string url, CodeStyle style)
    {
        string says = style.Compact ? CompactForm.Of(url) : url;
        return new CodeDrawing(says, style, CodeMatrix.Of(says, style.Level));
    }

    /// <summary>Dark modules as runs: row, first column, how many.</summary>
    public IEnumerable<(int Row, int Column, int Count)> Runs()
    {
        for (int row = 0; row < Matrix.Side; row++)
        {
            int column = 0;
            while (column < Matrix.Side)
            {
                int from = column;
                while (column < Matrix.Side && IsDark(row, column))
                {
                    column++;
                }

                if (column > from)
                {
                    yield return (row, from, column - from);
                }

                column++;
            }
        }
    }

    /// <summary>Outlines of the caption's lines.</summary>
    public SKPath CaptionOutline()
    {
        float size = Matrix.Side * CaptionPart;
        using var outline = new SKPathBuilder();
        for (int i = 0; i < Caption.Count; i++)
        {
            using var line = CaptionFont.Outline(Caption[i], size, Width / 2f, Matrix.Side + (size * ((i * LinePitch) + 0.75f)));
            outline.AddPath(line);
        }

        return outline.Detach();
    }

    /// <summary>The square the logo is drawn in; empty without one.</summary>
    public SKRect LogoSquare() =>
        Logo is null ? SKRect.Empty : SKRect.Inflate(SKRect.Create(Logo.Column, Logo.Row, Logo.Side, Logo.Side), -LogoMargin, -LogoMargin);

    /// <summary>Draws it, one unit to a module.</summary>
    public void Draw(SKCanvas canvas, SKImage? logo)
    {
        using var ground = new SKPaint { Color = Light, IsAntialias = false };
        canvas.DrawRect(0, 0, Width, Height, ground);

        // One path for all modules: rectangles drawn each on their own leave hair lines between them in some viewers.
        using var modules = new SKPathBuilder();
        foreach (var (row, column, count) in Runs())
        {
            modules.AddRect(SKRect.Create(column, row, count, 1));
        }

        using var dark = new SKPaint { Color = Dark, IsAntialias = false };
        using (var path = modules.Detach())
        {
            canvas.DrawPath(path, dark);
        }

        if (Caption.Count > 0)
        {
            using var smooth = new SKPaint { Color = Dark, IsAntialias = true };
            using var outline = CaptionOutline();
            canvas.DrawPath(outline, smooth);
        }

        if (logo is not null && Logo is not null)
        {
            canvas.DrawImage(logo, Fitted(logo.Width, logo.Height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        }
    }

    /// <summary>Where a picture lies in the logo's square, with its own proportions.</summary>
    public SKRect Fitted(int width, int height)
    {
        var square = LogoSquare();
        float scale = square.Width / Math.Max(width, height);
        return SKRect.Create(square.MidX - (width * scale / 2), square.MidY - (height * scale / 2), width * scale, height * scale);
    }

    private bool IsDark(int row, int column) => Matrix[row, column] && Logo?.Covers(row, column) != true;
}
