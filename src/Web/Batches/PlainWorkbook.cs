using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace PreciseBeacon.Web.Batches;

/// <summary>Rows as an XLSX workbook of one sheet, written straight through; every cell is text, so zeros in front stay.</summary>
public static class PlainWorkbook
{
    public static byte[] Write(IEnumerable<IReadOnlyList<string>> rows, string name = "Tagged")
    {
        using var file = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(file, SpreadsheetDocumentType.Workbook))
        {
            var workbook = document.AddWorkbookPart();
            var sheet = workbook.AddNewPart<WorksheetPart>();
            using (var writer = OpenXmlWriter.Create(sheet))
            {
                writer.WriteStartElement(new Worksheet());
                writer.WriteStartElement(new SheetData());
                foreach (var row in rows)
                {
                    writer.WriteStartElement(new Row());
                    foreach (string cell in row)
                    {
                        writer.WriteElement(new Cell
                        {
                            DataType = CellValues.InlineString,
                            InlineString = new InlineString(new Text(Printable(cell)) { Space = SpaceProcessingModeValues.Preserve }),
                        });
                    }

                    writer.WriteEndElement();
                }

                writer.WriteEndElement();
                writer.WriteEndElement();
            }

            workbook.Workbook = new Workbook(new Sheets(new Sheet { Name = name, SheetId = 1, Id = workbook.GetIdOfPart(sheet) }));
        }

        return file.ToArray();
    }

    /// <summary>XML can't hold control characters.</summary>
    private static string Printable(string text) => text.Any(c => c < ' ' && c is not '\t' and not '\n' and not '\r') ? string.Concat(text.Where(c => c >= ' ' || c is '\t' or '\n' or '\r')) : text;
}
