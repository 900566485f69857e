using System.Globalization;
using MiniExcelLibs;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Web.Conventions;

namespace PreciseBeacon.Web.Batches;

/// <summary>How a file is to be read; what is null is recognised.</summary>
public sealed record SheetReading(FileEncoding? Encoding = null, string? Separator = null, string? Sheet = null, int HeadingRow = 1);

/// <summary>A file read as a table, and how it was read.</summary>
public sealed record SheetRead(Table Table, bool IsWorkbook, FileEncoding Encoding, char Separator, string? Sheet, IReadOnlyList<string> Sheets);

/// <summary>Reads sheets: separated text of any usual encoding, and XLSX workbooks, told apart by what is in them.</summary>
public static class SheetFile
{
    public const int MostMegabytes = 50;
    public const int MostRows = 200_000;
    public const int MostColumns = 500;
    private const int LongestCell = 1 << 20;

    /// <summary>Reads a file.</summary>
    /// <exception cref="ConventionException">It is no sheet, or too large; the message is one sentence.</exception>
    public static SheetRead Read(byte[] file, SheetReading reading)
    {
        if (reading.HeadingRow is < 1 or > 1_000)
        {
            throw new ConventionException("The headings stand in one of the first 1,000 rows; choose another one.");
        }

        var read = file is [(byte)'P', (byte)'K', ..] ? Workbook(file, reading) : Text(file, reading);
        var table = read.Table;
        if (table.Headings.All(string.IsNullOrWhiteSpace))
        {
            throw new ConventionException("There are no headings in that row; choose the row they stand in.");
        }

        return table.Rows.Count > MostRows ? throw new ConventionException($"A sheet has at most {MostRows:N0} rows; this one has {table.Rows.Count:N0}. Cut it into parts.")
            : table.Headings.Count > MostColumns ? throw new ConventionException($"A sheet has at most {MostColumns} columns; this one has {table.Headings.Count:N0}.")
            : table.Rows.Any(r => r.Any(c => c.Length > LongestCell)) ? throw new ConventionException("A cell has more than a million characters; shorten it.")
            : read;
    }

    private static SheetRead Text(byte[] file, SheetReading reading)
    {
        var encoding = reading.Encoding ?? FileText.Recognise(file).Encoding;
        string text = FileText.Decode(file, encoding);
        if (text.Contains('\0', StringComparison.Ordinal))
        {
            throw new ConventionException("The file is neither separated text nor an XLSX workbook; save it as one of them.");
        }

        char separator = reading.Separator is [var given] ? given : TableText.SeparatorOf(text);
        if (separator is not '\t' and (< ' ' or > '~' or '"'))
        {
            throw new ConventionException("Cells are parted by a tab, or by one sign such as a comma or a semicolon; choose that.");
        }

        try
        {
            return new SheetRead(TableText.Read(text, separator, reading.HeadingRow), false, encoding, separator, null, []);
        }
        catch (FormatException broken)
        {
            throw new ConventionException(broken.Message, broken);
        }
    }

    private static SheetRead Workbook(byte[] file, SheetReading reading)
    {
        using var workbook = new MemoryStream(file);
        ConventionSheet.ThrowIfNoWorkbook(workbook);
        try
        {
            var sheets = workbook.GetSheetNames();
            string sheet = reading.Sheet is { } wanted && sheets.Contains(wanted) ? wanted : sheets[0];
            var rows = workbook.Query(useHeaderRow: false, sheetName: sheet).Cast<IDictionary<string, object?>>().Select(r => r.Values.Select(TextOf).ToList()).ToList();
            var headings = rows.Count >= reading.HeadingRow ? rows[reading.HeadingRow - 1] : [];
            while (headings.Count > 0 && headings[^1].Length == 0)
            {
                headings.RemoveAt(headings.Count - 1);
            }

            return new SheetRead(new Table(headings, [.. rows.Skip(reading.HeadingRow)]), true, FileEncoding.Utf8, ',', sheet, sheets);
        }
        catch (Exception broken) when (broken is not ConventionException and not OutOfMemoryException)
        {
            throw new ConventionException("The workbook can't be read; save it again as XLSX.", broken);
        }
    }

    private static string TextOf(object? cell) => cell switch
    {
        null => "",
        DateTime { TimeOfDay.Ticks: 0 } day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        DateTime moment => moment.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
        bool truth => truth ? "TRUE" : "FALSE",
        IFormattable number => number.ToString(null, CultureInfo.InvariantCulture),
        _ => cell.ToString() ?? "",
    };
}
