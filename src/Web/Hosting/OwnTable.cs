using PreciseBeacon.Core.Batches;
using PreciseBeacon.Web.Batches;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Tables of our own going out as a file. What is in them comes from us or from strangers, so no cell may run as a formula.</summary>
public static class OwnTable
{
    public const string CsvType = "text/csv; charset=utf-8";

    /// <summary>CSV (RFC 4180) in UTF-8 with a mark, so that spreadsheets read it right; what begins like a formula gets an apostrophe in front.</summary>
    public static byte[] Csv(IEnumerable<IReadOnlyList<string>> rows) =>
        FileText.Encode(TableText.Write(rows.Select(r => (IReadOnlyList<string>)[.. r.Select(Guarded)]), ','), FileEncoding.Utf8Marked);

    /// <summary>An XLSX workbook of one sheet; every cell is text.</summary>
    public static byte[] Xlsx(IEnumerable<IReadOnlyList<string>> rows, string sheet) => PlainWorkbook.Write(rows, sheet);

    /// <summary>The same of cells that know what they hold; numbers are written as such, also where they begin with a minus.</summary>
    public static byte[] Csv(IEnumerable<IReadOnlyList<OwnCell>> rows) =>
        FileText.Encode(
            TableText.Write(
                rows.Select(r => (IReadOnlyList<string>)[.. r.Select(c => c.Kind == OwnCellKind.Text ? Guarded(c.Text) : c.Text)]),
                ','
            ),
            FileEncoding.Utf8Marked
        );

    /// <summary>An XLSX workbook of one sheet, in which figures and money are numbers with a format.</summary>
    public static byte[] Xlsx(IEnumerable<IReadOnlyList<OwnCell>> rows, string sheet) => PlainWorkbook.Write(rows, sheet);

    /// <summary>The same with several sheets, each by its name.</summary>
    public static byte[] Xlsx(IReadOnlyList<(string Name, IReadOnlyList<IReadOnlyList<OwnCell>> Rows)> sheets) =>
        PlainWorkbook.Write(sheets);

    /// <summary>Takes the apostrophe away again when such a file comes back.</summary>
    public static string Unguarded(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;

    /// <summary>A cell that begins like a formula, with an apostrophe in front; others as they are.</summary>
    public static string Guarded(string cell) => cell is ['=' or '+' or '-' or '@', ..] ? $"'{cell}" : cell;
}
