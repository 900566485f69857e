using System.Globalization;
using System.Text;
using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>Draws a code as SVG: one path of runs on its ground, sized in millimetres.</summary>
public static class CodeSvg
{
    public static string Draw(CodeDrawing drawing)
    {
        var svg = new StringBuilder(8_192);
        var (width, height) = (drawing.Width, drawing.Height);
        svg.Append("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"")
            .Append(Number(drawing.Style.Millimetres))
            .Append("mm\" height=\"")
            .Append(Number(drawing.HeightMillimetres))
            .Append("mm\" viewBox=\"0 0 ")
            .Append(width)
            .Append(' ')
            .Append(height)
            .Append("\" shape-rendering=\"crispEdges\"><path fill=\"")
            .Append(Hex(drawing.Light))
            .Append("\" d=\"M0 0h")
            .Append(width)
            .Append('v')
            .Append(height)
            .Append("H0z\"/><path fill=\"")
            .Append(Hex(drawing.Dark))
            .Append("\" d=\"");
        foreach (var (row, column, count) in drawing.Runs())
        {
            svg.Append('M').Append(column).Append(' ').Append(row).Append('h').Append(count).Append("v1H").Append(column).Append('z');
        }

        svg.Append("\"/>");
        if (drawing.Caption.Count > 0)
        {
            using var outline = drawing.CaptionOutline();
            svg.Append("<path shape-rendering=\"auto\" fill=\"")
                .Append(Hex(drawing.Dark))
                .Append("\" d=\"")
                .Append(outline.ToSvgPathData())
                .Append("\"/>");
        }

        if (drawing.Style.Logo is { } logo && drawing.Logo is not null)
        {
            var square = drawing.LogoSquare();
            svg.Append(
                    CultureInfo.InvariantCulture,
                    $"<image x=\"{square.Left}\" y=\"{square.Top}\" width=\"{square.Width}\" height=\"{square.Height}\" href=\"data:image/png;base64,"
                )
                .Append(Convert.ToBase64String(logo))
                .Append("\"/>");
        }

        return svg.Append("</svg>").ToString();
    }

    private static string Number(decimal millimetres) => millimetres.ToString("0.##", CultureInfo.InvariantCulture);

    private static string Hex(SKColor colour) =>
        string.Create(CultureInfo.InvariantCulture, $"#{colour.Red:X2}{colour.Green:X2}{colour.Blue:X2}");
}
