using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.Web.Batches;

/// <summary>How a file is to be read; what is null is recognised.</summary>
public sealed record SheetReading(FileEncoding? Encoding = null, string? Separator = null, string? Sheet = null, int? HeadingRow = null);

/// <summary>A file being read: its headings, and its rows one by one as they are asked for.</summary>
/// <param name="HeadingRow">Row of the headings, counted from 1.</param>
/// <param name="Rows">Rows below the headings; to be gone through once. What is over a limit is refused while they come.</param>
public sealed record OpenSheet(
    IReadOnlyList<string> Headings,
    IEnumerable<IReadOnlyList<string>> Rows,
    int HeadingRow,
    bool IsWorkbook,
    FileEncoding Encoding,
    TextForm Form,
    string? Sheet,
    IReadOnlyList<string> Sheets
);

/// <summary>Reads sheets: separated text of any usual encoding, and XLSX workbooks, told apart by what is in them.</summary>
public static class SheetFile
{
    public const int MostMegabytes = 50;

    private const int LastHeadingRow = 1_000;

    /// <summary>Reads a whole file into memory; for files that are small, or of which little is kept.</summary>
    /// <exception cref="SheetException">It is no sheet, or too large; the message is one sentence.</exception>
    public static Table Read(byte[] file, CancellationToken cancel)
    {
        var sheet = Open(file, new SheetReading(), cancel);
        return new Table(sheet.Headings, [.. sheet.Rows]);
    }

    /// <summary>Opens a file and reads its headings.</summary>
    /// <exception cref="SheetException">It is no sheet; the message is one sentence. Going through the rows may throw it too.</exception>
    public static OpenSheet Open(byte[] file, SheetReading reading, CancellationToken cancel)
    {
        if (reading.HeadingRow is < 1 or > LastHeadingRow)
        {
            throw new SheetException($"The headings must be in one of the first {LastHeadingRow:N0} rows; choose another row.");
        }

        return file is [(byte)'P', (byte)'K', ..] ? Workbook(file, reading, cancel) : Text(file, reading, cancel);
    }

    private static OpenSheet Text(byte[] file, SheetReading reading, CancellationToken cancel)
    {
        var encoding = reading.Encoding ?? FileText.Recognise(file).Encoding;
        string text = FileText.Decode(file, encoding);
        if (text.Contains('\0', StringComparison.Ordinal))
        {
            throw new SheetException("The file is neither separated text nor an XLSX workbook; save it as one of them.");
        }

        char separator = reading.Separator is [var given] ? given : TableText.SeparatorOf(text);
        if (separator is not '\t' and (< ' ' or > '~' or '"'))
        {
            throw new SheetException("Cells are separated by a tab or by one character such as a comma or a semicolon; choose one.");
        }

        var (headings, rows, headingRow) = Parted(TableText.Rows(text, separator), reading.HeadingRow, "The file", cancel);
        return new OpenSheet(headings, rows, headingRow, false, encoding, TableText.FormOf(text, separator), null, []);
    }

    private static OpenSheet Workbook(byte[] file, SheetReading reading, CancellationToken cancel)
    {
        var workbook = WorkbookReader.Open(file);
        string sheet = reading.Sheet is { } wanted && workbook.Sheets.Contains(wanted) ? wanted : workbook.Sheets[0];
        string name = $"The sheet “{sheet}”";
        var (headings, rows, headingRow) = Parted(workbook.Rows(sheet, name, reading.HeadingRow ?? 1), reading.HeadingRow, name, cancel);
        var kept = headings.ToList();
        while (kept.Count > 0 && kept[^1].Length == 0)
        {
            kept.RemoveAt(kept.Count - 1);
        }

        return new OpenSheet(kept, rows, headingRow, true, FileEncoding.Utf8, new TextForm(','), sheet, workbook.Sheets);
    }

    /// <summary>Takes the headings off; what stands above them is left out.</summary>
    private static (IReadOnlyList<string> Headings, IEnumerable<IReadOnlyList<string>> Rows, int HeadingRow) Parted(
        IEnumerable<IReadOnlyList<string>> all,
        int? given,
        string name,
        CancellationToken cancel
    )
    {
        var rows = all.GetEnumerator();
        var start = new List<IReadOnlyList<string>>();
        while (start.Count < (given ?? HeadingRow.Looked) && Next())
        {
            start.Add(rows.Current);
        }

        int headingRow = given ?? HeadingRow.Of(start);
        var headings = start.Count < headingRow ? [] : start[headingRow - 1];

        SheetLimits.ThrowIfTooWide(headings.Count, name);
        return headings.All(string.IsNullOrWhiteSpace)
            ? throw new SheetException("That row has no headings; choose another row.")
            : (headings, SheetLimits.Within(Remaining(), name), headingRow);

        bool Next()
        {
            cancel.ThrowIfCancellationRequested();
            try
            {
                return rows.MoveNext();
            }
            catch (FormatException broken)
            {
                throw new SheetException(broken.Message, broken);
            }
        }

        IEnumerable<IReadOnlyList<string>> Remaining()
        {
            using (rows)
            {
                foreach (var row in start.Skip(headingRow))
                {
                    yield return row;
                }

                while (Next())
                {
                    yield return rows.Current;
                }
            }
        }
    }
}
