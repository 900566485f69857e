using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.Web.Batches;

/// <summary>
/// Reads the cells of an XLSX workbook (ECMA-376 part 1, §18) row by row, each as the text it stands for. Only strings that
/// cells share are held in memory; spans without anything in them cost nothing.
/// </summary>
public sealed partial class WorkbookReader
{
    /// <summary>200,000 rows of 50 columns unfold to about 700 MB.</summary>
    private const long LargestUnfolded = 2L << 30;

    /// <summary>Everything that is neither cells nor strings of cells.</summary>
    private const long LargestRest = 64 << 20;

    /// <summary>The day after 31 Dec 9999, counted as workbooks count days; and the days between their two ways to count (§18.17.4.1).</summary>
    private const int EndOfDays = 2_958_466;
    private const int DaysTo1904 = 1_462;

    private const string NoWorkbook = "The file isn't an XLSX workbook, although its name says so.";
    private const string Broken = "The workbook can't be read; save it again as XLSX.";

    internal static readonly XmlReaderSettings Settings = new()
    {
        DtdProcessing = DtdProcessing.Prohibit,
        XmlResolver = null,
        IgnoreComments = true,
        IgnoreProcessingInstructions = true,
    };

    private readonly byte[] _file;

    private WorkbookReader(byte[] file, IReadOnlyList<string> sheets) => (_file, Sheets) = (file, sheets);

    /// <summary>Names of its sheets, in order; at least one.</summary>
    public IReadOnlyList<string> Sheets { get; }

    /// <summary>Looks whether a file is a workbook, and which sheets it has.</summary>
    /// <exception cref="SheetException">It is none, or unfolds to too much.</exception>
    public static WorkbookReader Open(byte[] file)
    {
        ThrowIfTooLarge(file);
        return Reading(() =>
        {
            using var document = SpreadsheetDocument.Open(new MemoryStream(file, writable: false), isEditable: false);
            var sheets = SheetsOf(document).Select(s => s.Name!.Value!).ToList();
            return sheets.Count == 0 ? throw new SheetException("The workbook has no sheet with cells.") : new WorkbookReader(file, sheets);
        });
    }

    /// <summary>The rows of a sheet from its first one; a row without anything is empty, and what follows the last filled one is left out.</summary>
    /// <param name="sheet">One of <see cref="Sheets"/>.</param>
    /// <param name="name">What the sheet is called in refusals, as the beginning of a sentence.</param>
    /// <param name="headingRow">The row of the headings, counted from 1; rows are counted after it.</param>
    /// <exception cref="SheetException">Something stands too far below or to the right, or the sheet is broken.</exception>
    public IEnumerable<IReadOnlyList<string>> Rows(string sheet, string name, int headingRow)
    {
        using var document = Reading(() => SpreadsheetDocument.Open(new MemoryStream(_file, writable: false), isEditable: false));
        var part = Reading(() =>
            (WorksheetPart)document.WorkbookPart!.GetPartById(SheetsOf(document).First(s => s.Name!.Value == sheet).Id!.Value!)
        );
        var strings = Reading(() => SharedTexts.Read(document.WorkbookPart!.SharedStringTablePart));
        bool[] dates = Reading(() => DateStyles(document.WorkbookPart!));
        bool from1904 = document.WorkbookPart!.Workbook!.WorkbookProperties?.Date1904?.Value == true;
        using var stream = part.GetStream();
        using var reader = XmlReader.Create(stream, Settings);
        int last = 0;
        while (Reading(() => ReadToRow(reader)))
        {
            int number =
                int.TryParse(reader.GetAttribute("r"), CultureInfo.InvariantCulture, out int told) && told > last ? told : last + 1;
            var cells = Reading(() => CellsOf(reader, strings, dates, from1904, name));
            if (cells.Count == 0)
            {
                continue;
            }

            SheetLimits.ThrowIfTooManyRows(number - headingRow, name);
            for (last++; last < number; last++)
            {
                yield return [];
            }

            yield return cells;
        }
    }

    /// <summary>Programs differ in whether they write a prefix before names.</summary>
    private static bool ReadToRow(XmlReader reader)
    {
        while (reader.Read())
        {
            if (reader.NodeType == XmlNodeType.Element && reader.LocalName == "row")
            {
                return true;
            }
        }

        return false;
    }

    private static List<string> CellsOf(XmlReader reader, SharedTexts strings, bool[] dates, bool from1904, string name)
    {
        var cells = new List<string>();
        if (reader.IsEmptyElement)
        {
            return cells;
        }

        int next = 0;
        while (reader.Read() && !(reader.NodeType == XmlNodeType.EndElement && reader.LocalName == "row"))
        {
            if (reader.NodeType != XmlNodeType.Element || reader.LocalName != "c")
            {
                continue;
            }

            int column = ColumnOf(reader.GetAttribute("r")) ?? next;
            string? type = reader.GetAttribute("t");
            bool isDate =
                int.TryParse(reader.GetAttribute("s"), CultureInfo.InvariantCulture, out int style)
                && style >= 0
                && style < dates.Length
                && dates[style];
            string text = TextOf(type, ValueOf(reader), strings, isDate, from1904);
            next = column + 1;
            if (text.Length > 0)
            {
                SheetLimits.ThrowIfTooWide(next, name);
                while (cells.Count < column)
                {
                    cells.Add("");
                }

                cells.Add(text);
            }
        }

        return cells;
    }

    /// <summary>What stands in a cell: its value, or the runs of its own text without reading aids (§18.3.1.4, §18.3.1.53).</summary>
    private static string ValueOf(XmlReader reader)
    {
        if (reader.IsEmptyElement)
        {
            return "";
        }

        string value = "";
        StringBuilder? own = null;
        int aids = 0;
        while (reader.Read() && !(reader.NodeType == XmlNodeType.EndElement && reader.LocalName == "c"))
        {
            switch (reader.NodeType)
            {
                case XmlNodeType.Element when reader.LocalName == "rPh" && !reader.IsEmptyElement:
                    aids++;
                    break;
                case XmlNodeType.EndElement when reader.LocalName == "rPh":
                    aids--;
                    break;
                case XmlNodeType.Element when reader.LocalName is "v" or "t" && !reader.IsEmptyElement:
                    bool isRun = reader.LocalName == "t";
                    string text = TextInside(reader);
                    if (!isRun)
                    {
                        value = text;
                    }
                    else if (aids == 0)
                    {
                        (own ??= new()).Append(text);
                    }

                    break;
            }
        }

        return own?.ToString() ?? value;
    }

    /// <summary>The text of an element; the reader then stands at its end.</summary>
    internal static string TextInside(XmlReader reader)
    {
        string text = "";
        while (reader.Read() && reader.NodeType != XmlNodeType.EndElement)
        {
            if (reader.NodeType is XmlNodeType.Text or XmlNodeType.SignificantWhitespace or XmlNodeType.Whitespace or XmlNodeType.CDATA)
            {
                text = text.Length == 0 ? reader.Value : text + reader.Value;
            }
        }

        return text;
    }

    /// <summary>A cell's text by its type (§18.18.11). Dates are numbers of days with a format of a date.</summary>
    private static string TextOf(string? type, string value, SharedTexts strings, bool isDate, bool from1904) =>
        type switch
        {
            "s" => int.TryParse(value, CultureInfo.InvariantCulture, out int index) ? strings.At(index) : "",
            "b" => value == "1" ? "TRUE"
            : value == "0" ? "FALSE"
            : value,
            "str" or "inlineStr" => Unescaped(value),
            "e" => value,
            "d" => DateTime.TryParse(value, CultureInfo.InvariantCulture, DateTimeStyles.RoundtripKind, out var moment)
                ? Day(moment)
                : value,
            _ => NumberOf(value, isDate, from1904),
        };

    /// <summary>Whole numbers stay as they are written, however long.</summary>
    private static string NumberOf(string value, bool isDate, bool from1904) =>
        (!isDate && value.AsSpan().IndexOfAnyExceptInRange('0', '9') < 0)
        || !double.TryParse(value, NumberStyles.Float, CultureInfo.InvariantCulture, out double number)
            ? value
        : isDate && number is >= 0 and < EndOfDays ? Day(DateTime.FromOADate(from1904 ? number + DaysTo1904 : number))
        : number.ToString(CultureInfo.InvariantCulture);

    /// <summary>Days are told to the second; a program that keeps them as fractions of a day is some millionths off.</summary>
    private static string Day(DateTime moment)
    {
        var rounded = new DateTime((moment.Ticks + (TimeSpan.TicksPerSecond / 2)) / TimeSpan.TicksPerSecond * TimeSpan.TicksPerSecond);
        return rounded.ToString(rounded.TimeOfDay.Ticks == 0 ? "yyyy-MM-dd" : "yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture);
    }

    /// <summary>Which cell styles show a number as a date (§18.8.30: the formats built in, and those with parts of a date in them).</summary>
    private static bool[] DateStyles(WorkbookPart workbook)
    {
        var sheet = workbook.WorkbookStylesPart?.Stylesheet;
        var own = sheet
            ?.NumberingFormats?.Elements<NumberingFormat>()
            .Where(f => f.NumberFormatId is not null)
            .DistinctBy(f => f.NumberFormatId!.Value)
            .ToDictionary(f => f.NumberFormatId!.Value, f => f.FormatCode?.Value ?? "")
            ?? [];
        return
        [
            .. (sheet?.CellFormats?.Elements<CellFormat>() ?? []).Select(f =>
                f.NumberFormatId?.Value is { } id
                && (
                    own.TryGetValue(id, out string? code)
                        ? DatePart().IsMatch(NoDatePart().Replace(code, ""))
                        : id is (>= 14 and <= 22) or (>= 27 and <= 36) or (>= 45 and <= 47) or (>= 50 and <= 58)
                )
            ),
        ];
    }

    private static IEnumerable<Sheet> SheetsOf(SpreadsheetDocument document) =>
        document
            .WorkbookPart!.Workbook!.Descendants<Sheet>()
            .Where(s =>
                s.Id?.Value is { } id
                && s.Name?.Value is not null
                && document.WorkbookPart.TryGetPartById(id, out var part)
                && part is WorksheetPart
            );

    private static int? ColumnOf(string? reference)
    {
        int column = 0;
        foreach (char letter in reference ?? "")
        {
            if (!char.IsAsciiLetter(letter) || column > SheetLimits.MostColumns * 100)
            {
                break;
            }

            column = (column * 26) + (char.ToUpperInvariant(letter) - 'A' + 1);
        }

        return column == 0 ? null : column - 1;
    }

    /// <summary>Characters XML can't hold are written as <c>_x000D_</c> (§22.9.2.19).</summary>
    internal static string Unescaped(string text) =>
        text.Contains("_x", StringComparison.Ordinal)
            ? Escape()
                .Replace(text, m =>
                    ((char)int.Parse(m.Groups[1].ValueSpan, NumberStyles.HexNumber, CultureInfo.InvariantCulture)).ToString()
                )
            : text;

    /// <summary>Nothing unpacks to more than the archive's own list says, so the list is what has to be judged.</summary>
    private static void ThrowIfTooLarge(byte[] file)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(file, writable: false), ZipArchiveMode.Read);
            if (
                zip.GetEntry("xl/workbook.xml") is null
                && !zip.Entries.Any(e => e.FullName.EndsWith("workbook.xml", StringComparison.OrdinalIgnoreCase))
            )
            {
                throw new SheetException(NoWorkbook);
            }

            long all = zip.Entries.Sum(e => Math.Max(0, e.Length));
            long rest = zip
                .Entries.Where(e =>
                    !e.FullName.Contains("/worksheets/", StringComparison.OrdinalIgnoreCase)
                    && !e.FullName.Contains("sharedStrings", StringComparison.OrdinalIgnoreCase)
                    && !e.FullName.Contains("/media/", StringComparison.OrdinalIgnoreCase)
                )
                .Sum(e => Math.Max(0, e.Length));
            if (all > LargestUnfolded || rest > LargestRest)
            {
                throw new SheetException(
                    $"The workbook unpacks to more than {(all > LargestUnfolded ? LargestUnfolded : LargestRest) >> 20:N0} MB; save only this sheet, as a new workbook or as CSV."
                );
            }
        }
        catch (InvalidDataException broken)
        {
            throw new SheetException(NoWorkbook, broken);
        }
    }

    /// <summary>Whatever is wrong with a stranger's file is said in a sentence.</summary>
    private static T Reading<T>(Func<T> read)
    {
        try
        {
            return read();
        }
        catch (Exception broken) when (broken is not SheetException and not OutOfMemoryException and not OperationCanceledException)
        {
            throw new SheetException(Broken, broken);
        }
    }

    [GeneratedRegex("[dmyhsDMYHS]")]
    private static partial Regex DatePart();

    // Colours and conditions in brackets, texts in quotation marks, and single signs after a backslash, an underscore or an asterisk.
    [GeneratedRegex("\\[[^\\]]*\\]|\"[^\"]*\"|[\\\\_*].")]
    private static partial Regex NoDatePart();

    [GeneratedRegex("_x([0-9A-Fa-f]{4})_")]
    private static partial Regex Escape();
}
