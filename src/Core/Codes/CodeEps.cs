using System.Globalization;
using System.Text;
using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>Draws a code as encapsulated PostScript (EPSF 3.0, language level 2), in outlines.</summary>
public static class CodeEps
{
    private const int SamplesPerLine = 24;

    public static string Draw(CodeDrawing drawing)
    {
        var eps = new StringBuilder(16_384);
        float scale = (float)drawing.Style.Millimetres * CodePdf.PointsPerMillimetre / drawing.Width;
        var (width, height) = (drawing.Width * scale, drawing.Height * scale);
        Line(eps, "%!PS-Adobe-3.0 EPSF-3.0");
        Line(eps, $"%%BoundingBox: 0 0 {Math.Ceiling(width)} {Math.Ceiling(height)}");
        Line(eps, $"%%HiResBoundingBox: 0 0 {width} {height}");
        Line(eps, $"%%LanguageLevel: 2");
        Line(eps, $"%%EndComments");
        Line(eps, $"gsave 0 {height} translate {scale} {-scale} scale");
        Line(eps, $"{Rgb(drawing.Light)} setrgbcolor 0 0 {drawing.Width} {drawing.Height} rectfill");
        Line(eps, $"{Rgb(drawing.Dark)} setrgbcolor newpath");
        foreach (var (row, column, count) in drawing.Runs())
        {
            Line(eps, $"{column} {row} moveto {count} 0 rlineto 0 1 rlineto {-count} 0 rlineto closepath");
        }

        Line(eps, $"fill");
        if (drawing.Caption.Count > 0)
        {
            Outline(eps, drawing);
        }

        if (drawing.Style.Logo is { } png && drawing.Logo is not null)
        {
            Logo(eps, drawing, png);
        }

        Line(eps, $"grestore");
        Line(eps, $"%%EOF");
        return eps.ToString();
    }

    private static void Outline(StringBuilder eps, CodeDrawing drawing)
    {
        using var outline = drawing.CaptionOutline();
        using var steps = outline.CreateRawIterator();
        var p = new SKPoint[4];
        Line(eps, $"newpath");
        while (steps.Next(p) is var verb && verb != SKPathVerb.Done)
        {
            switch (verb)
            {
                case SKPathVerb.Move:
                    Line(eps, $"{p[0].X} {p[0].Y} moveto");
                    break;
                case SKPathVerb.Line:
                    Line(eps, $"{p[1].X} {p[1].Y} lineto");
                    break;
                case SKPathVerb.Quad:
                    // A quadratic curve as a cubic one: each handle two thirds of the way to the middle point.
                    Line(
                        eps,
                        $"{Third(p[0].X, p[1].X)} {Third(p[0].Y, p[1].Y)} {Third(p[2].X, p[1].X)} {Third(p[2].Y, p[1].Y)} {p[2].X} {p[2].Y} curveto"
                    );
                    break;
                case SKPathVerb.Cubic:
                    Line(eps, $"{p[1].X} {p[1].Y} {p[2].X} {p[2].Y} {p[3].X} {p[3].Y} curveto");
                    break;
                case SKPathVerb.Close:
                    Line(eps, $"closepath");
                    break;
                default:
                    throw new InvalidOperationException($"The typeface has a curve of a kind that is not expected: {verb}.");
            }
        }

        Line(eps, $"fill");
    }

    /// <summary>PostScript of this level knows no transparency: the picture is laid on the ground's colour first.</summary>
    private static void Logo(StringBuilder eps, CodeDrawing drawing, byte[] png)
    {
        using var logo = SKBitmap.Decode(png);
        var place = drawing.Fitted(logo.Width, logo.Height);
        Line(eps, $"gsave {place.Left} {place.Top} translate {place.Width} {place.Height} scale /line {logo.Width * 3} string def");
        Line(
            eps,
            $"{logo.Width} {logo.Height} 8 [{logo.Width} 0 0 {logo.Height} 0 0] {{currentfile line readhexstring pop}} false 3 colorimage"
        );
        int samples = 0;
        for (int y = 0; y < logo.Height; y++)
        {
            for (int x = 0; x < logo.Width; x++)
            {
                var dot = logo.GetPixel(x, y);
                eps.Append(
                    CultureInfo.InvariantCulture,
                    $"{Over(dot.Red, drawing.Light.Red, dot.Alpha):x2}{Over(dot.Green, drawing.Light.Green, dot.Alpha):x2}{Over(dot.Blue, drawing.Light.Blue, dot.Alpha):x2}"
                );
                if (++samples % SamplesPerLine == 0)
                {
                    eps.Append('\n');
                }
            }
        }

        Line(eps, $"\ngrestore");
    }

    private static byte Over(byte top, byte ground, byte alpha) => (byte)(((top * alpha) + (ground * (255 - alpha))) / 255);

    private static float Third(float end, float middle) => end + ((middle - end) * 2 / 3);

    private static string Rgb(SKColor colour) =>
        string.Create(CultureInfo.InvariantCulture, $"{colour.Red / 255f:0.####} {colour.Green / 255f:0.####} {colour.Blue / 255f:0.####}");

    private static void Line(StringBuilder eps, FormattableString line) =>
        eps.Append(line.ToString(CultureInfo.InvariantCulture)).Append('\n');

    private static void Line(StringBuilder eps, string line) => eps.Append(line).Append('\n');
}
