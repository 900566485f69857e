using System.Globalization;
using System.Text;

namespace PreciseBeacon.Core.Codes;

/// <summary>Draws a code as SVG: one path of runs on a white ground, sized in millimetres.</summary>
public static class CodeSvg
{
    public static string Draw(CodeMatrix matrix, decimal millimetres)
    {
        var svg = new StringBuilder();
        string side = millimetres.ToString("0.##", CultureInfo.InvariantCulture);
        svg.Append(CultureInfo.InvariantCulture, $"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{side}mm\" height=\"{side}mm\" viewBox=\"0 0 {matrix.Side} {matrix.Side}\" shape-rendering=\"crispEdges\">");
        svg.Append(CultureInfo.InvariantCulture, $"<path fill=\"#fff\" d=\"M0 0h{matrix.Side}v{matrix.Side}H0z\"/><path fill=\"#000\" d=\"");
        for (int row = 0; row < matrix.Side; row++)
        {
            int column = 0;
            while (column < matrix.Side)
            {
                if (!matrix[row, column])
                {
                    column++;
                    continue;
                }

                int from = column;
                while (column < matrix.Side && matrix[row, column])
                {
                    column++;
                }

                svg.Append(CultureInfo.InvariantCulture, $"M{from} {row}h{column - from}v1H{from}z");
            }
        }

        return svg.Append("\"/></svg>").ToString();
    }
}
