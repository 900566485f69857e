using System.Globalization;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using A = DocumentFormat.OpenXml.Drawing;
using Xdr = DocumentFormat.OpenXml.Drawing.Spreadsheet;

namespace PreciseBeacon.Web.Batches;

/// <summary>Puts codes as pictures beside the cells of a workbook (ECMA-376 part 1, 20.5).</summary>
public static class WorkbookPictures
{
    /// <summary>English Metric Units to a millimetre (ECMA-376 part 1, 20.1.10.16).</summary>
    private const int UnitsPerMillimetre = 36_000;
    private const int Millimetres = 22;
    private const double PointsPerMillimetre = 72 / 25.4;

    /// <summary>A workbook with pictures in one column of a sheet; rows grow to hold them.</summary>
    /// <param name="workbook">The workbook.</param>
    /// <param name="sheetName">The sheet; null for the first.</param>
    /// <param name="column">The column, from 0.</param>
    /// <param name="pictures">PNG files by row, from 1.</param>
    public static byte[] Add(byte[] workbook, string? sheetName, int column, IEnumerable<(int Row, byte[] Png)> pictures)
    {
        using var file = new MemoryStream();
        file.Write(workbook);
        using (var document = SpreadsheetDocument.Open(file, isEditable: true))
        {
            var book = document.WorkbookPart!;
            var sheet = book.Workbook!.Descendants<Sheet>().First(s => sheetName is null || s.Name?.Value == sheetName);
            var part = (WorksheetPart)book.GetPartById(sheet.Id!.Value!);
            var drawings = part.DrawingsPart;
            if (drawings is null)
            {
                drawings = part.AddNewPart<DrawingsPart>();
                drawings.WorksheetDrawing = new Xdr.WorksheetDrawing();
                part.Worksheet!.AddChild(new Drawing { Id = part.GetIdOfPart(drawings) });
            }

            uint number = drawings
                .WorksheetDrawing!.Descendants<Xdr.NonVisualDrawingProperties>()
                .Select(p => p.Id?.Value ?? 0)
                .DefaultIfEmpty(0u)
                .Max();
            var lines = part.Worksheet!.GetFirstChild<SheetData>()!
                .Elements<Row>()
                .Select((r, i) => (Number: (int)(r.RowIndex?.Value ?? (uint)(i + 1)), Row: r))
                .ToDictionary(r => r.Number, r => r.Row);
            foreach (var (row, png) in pictures)
            {
                var image = drawings.AddImagePart(ImagePartType.Png);
                using (var content = new MemoryStream(png))
                {
                    image.FeedData(content);
                }

                drawings.WorksheetDrawing.Append(Anchor(column, row, ++number, drawings.GetIdOfPart(image)));
                if (lines.TryGetValue(row, out var line))
                {
                    line.Height = Math.Max(line.Height?.Value ?? 0, (Millimetres + 2) * PointsPerMillimetre);
                    line.CustomHeight = true;
                }
            }
        }

        return file.ToArray();
    }

    private static Xdr.OneCellAnchor Anchor(int column, int row, uint number, string image)
    {
        const long Side = Millimetres * UnitsPerMillimetre;
        return new Xdr.OneCellAnchor(
            new Xdr.FromMarker(
                new Xdr.ColumnId(column.ToString(CultureInfo.InvariantCulture)),
                new Xdr.ColumnOffset("36000"),
                new Xdr.RowId((row - 1).ToString(CultureInfo.InvariantCulture)),
                new Xdr.RowOffset("36000")
            ),
            new Xdr.Extent { Cx = Side, Cy = Side },
            new Xdr.Picture(
                new Xdr.NonVisualPictureProperties(
                    new Xdr.NonVisualDrawingProperties { Id = number, Name = $"Code {row.ToString(CultureInfo.InvariantCulture)}" },
                    new Xdr.NonVisualPictureDrawingProperties(new A.PictureLocks { NoChangeAspect = true })
                ),
                new Xdr.BlipFill(new A.Blip { Embed = image }, new A.Stretch(new A.FillRectangle())),
                new Xdr.ShapeProperties(
                    new A.Transform2D(new A.Offset { X = 0, Y = 0 }, new A.Extents { Cx = Side, Cy = Side }),
                    new A.PresetGeometry(new A.AdjustValueList()) { Preset = A.ShapeTypeValues.Rectangle }
                )
            ),
            new Xdr.ClientData()
        );
    }
}
