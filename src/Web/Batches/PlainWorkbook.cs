using System.Xml;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>Rows as an XLSX workbook of one sheet, written straight through; a cell of text is text, so zeros in front stay.</summary>
public static class PlainWorkbook
{
    /// <summary>Writes the workbook.</summary>
    public static byte[] Write(IEnumerable<IReadOnlyList<string>> rows, string name = "Tagged")
    {
        using var file = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(file, SpreadsheetDocumentType.Workbook))
        {
            using (var writer = Begin(document, name))
            {
                foreach (var row in rows)
                {
                    Write(writer, row);
                }

                End(writer);
            }
        }

        return file.ToArray();
    }

    /// <summary>Writes the workbook with figures as numbers; the first row is the headings.</summary>
    public static byte[] Write(IEnumerable<IReadOnlyList<OwnCell>> rows, string name) => Write([(name, rows)]);

    /// <summary>Writes a workbook of several sheets with figures as numbers.</summary>
    /// <param name="sheets">Names and rows, in their order.</param>
    public static byte[] Write<TRows>(IReadOnlyList<(string Name, TRows Rows)> sheets)
        where TRows : IEnumerable<IReadOnlyList<OwnCell>>
    {
        using var file = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(file, SpreadsheetDocumentType.Workbook))
        {
            foreach (var (name, rows) in sheets)
            {
                using var writer = Begin(document, name);
                foreach (var row in rows)
                {
                    writer.WriteStartElement(new Row());
                    foreach (var cell in row)
                    {
                        writer.WriteElement(CellOf(cell));
                    }

                    writer.WriteEndElement();
                }

                End(writer);
            }

            document.WorkbookPart!.AddNewPart<WorkbookStylesPart>().Stylesheet = Formats();
        }

        return file.ToArray();
    }

    /// <summary>Writes the workbook as its rows come.</summary>
    public static async Task WriteAsync(
        Stream file,
        IAsyncEnumerable<IReadOnlyList<string>> rows,
        CancellationToken cancel,
        string name = "Tagged"
    )
    {
        using var document = SpreadsheetDocument.Create(file, SpreadsheetDocumentType.Workbook);
        using var writer = Begin(document, name);
        await foreach (var row in rows.WithCancellation(cancel))
        {
            Write(writer, row);
        }

        End(writer);
    }

    private static OpenXmlWriter Begin(SpreadsheetDocument document, string name)
    {
        var workbook = document.WorkbookPart ?? document.AddWorkbookPart();
        var sheet = workbook.AddNewPart<WorksheetPart>();
        workbook.Workbook ??= new Workbook(new Sheets());
        var sheets = workbook.Workbook.GetFirstChild<Sheets>()!;
        sheets.Append(
            new Sheet
            {
                Name = name,
                SheetId = (uint)sheets.ChildElements.Count + 1,
                Id = workbook.GetIdOfPart(sheet),
            }
        );
        var writer = OpenXmlWriter.Create(sheet);
        writer.WriteStartElement(new Worksheet());
        writer.WriteStartElement(new SheetData());
        return writer;
    }

    private static void Write(OpenXmlWriter writer, IReadOnlyList<string> row)
    {
        writer.WriteStartElement(new Row());
        foreach (string cell in row)
        {
            writer.WriteElement(CellOf(cell));
        }

        writer.WriteEndElement();
    }

    private static Cell CellOf(OwnCell cell) =>
        cell.Kind == OwnCellKind.Text || cell.Text.Length == 0
            ? new Cell
            {
                DataType = CellValues.InlineString,
                InlineString = new InlineString(new Text(Printable(cell.Text)) { Space = SpaceProcessingModeValues.Preserve }),
            }
            : new Cell { CellValue = new CellValue(cell.Text), StyleIndex = (uint)cell.Kind };

    /// <summary>Formats by <see cref="OwnCellKind"/>: 3 is <c>#,##0</c>, 4 <c>#,##0.00</c> and 10 <c>0.00%</c> (ISO/IEC 29500-1, 18.8.30).</summary>
    private static Stylesheet Formats() =>
        new(
            new Fonts(new Font()),
            new Fills(
                new Fill(new PatternFill { PatternType = PatternValues.None }),
                new Fill(new PatternFill { PatternType = PatternValues.Gray125 })
            ),
            new Borders(new Border()),
            new CellFormats(
                new CellFormat(),
                new CellFormat { NumberFormatId = 3, ApplyNumberFormat = true },
                new CellFormat { NumberFormatId = 4, ApplyNumberFormat = true },
                new CellFormat { NumberFormatId = 10, ApplyNumberFormat = true },
                new CellFormat { NumberFormatId = 4, ApplyNumberFormat = true }
            )
        );

    private static void End(OpenXmlWriter writer)
    {
        writer.WriteEndElement();
        writer.WriteEndElement();
    }

    /// <summary>The text without the signs XML can't hold (XML 1.0, 2.2 "Characters").</summary>
    public static string Printable(string text) => text.All(IsPrintable) ? text : string.Concat(text.Where(IsPrintable));

    private static bool IsPrintable(char sign) => XmlConvert.IsXmlChar(sign) || char.IsSurrogate(sign);
}
