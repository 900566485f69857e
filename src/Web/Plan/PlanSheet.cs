using System.Globalization;
using System.Text;
using CsvHelper;
using MiniExcelLibs;
using MiniExcelLibs.OpenXml;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Planned links as a sheet, out and in: XLSX or CSV.</summary>
public static class PlanSheet
{
    public const string CsvType = "text/csv; charset=utf-8";

    private static readonly string[] Headings = ["Page", "Placement", "Content", "Owner", "Due", "Note", "State", "Link", "Short link"];

    private static readonly OpenXmlConfiguration Configuration = new() { AutoFilter = false, FreezeRowCount = 1 };

    /// <summary>The workbook; every cell is text, never a formula.</summary>
    public static byte[] Xlsx(IReadOnlyList<PlannedAnswer> rows)
    {
        using var workbook = new MemoryStream();
        object sheet = rows.Select(r => Headings.Zip(Cells(r)).ToDictionary(c => c.First, c => (object)c.Second)).DefaultIfEmpty(Headings.ToDictionary(h => h, _ => (object)"")).ToList();
        workbook.SaveAs(sheet, sheetName: "Planned links", configuration: Configuration);
        return workbook.ToArray();
    }

    /// <summary>The table as CSV (RFC 4180), UTF-8 with a mark so that spreadsheets read it right.</summary>
    public static byte[] Csv(IReadOnlyList<PlannedAnswer> rows)
    {
        using var file = new MemoryStream();
        using (var csv = CsvWriter.Create(file, new CsvWriterOptions { Injection = CsvInjection.Escape, WriteByteOrderMark = true }, true))
        {
            foreach (string[] cells in rows.Select(Cells).Prepend(Headings))
            {
                csv.WriteRecord(cells);
            }
        }

        return file.ToArray();
    }

    /// <summary>Reads a sheet; its first row has the headings.</summary>
    /// <exception cref="ConventionException">The file can't be read as a sheet, or has no column that is known.</exception>
    public static PlanSheetRead Read(MemoryStream file, IReadOnlyList<Placement> placements)
    {
        var table = TableOf(file);
        if (table.Count == 0)
        {
            throw new ConventionException("The sheet is empty; its first row has the headings, such as Page and Placement.");
        }

        var heads = table[0].Select(h => h.Trim()).ToList();
        int Column(params string[] names) => heads.FindIndex(h => names.Contains(h, StringComparer.OrdinalIgnoreCase));
        int page = Column("Page", "Landing page", "URL", "Address", "Destination"), placement = Column("Placement", "Where"), content = Column("Content", "Variant");
        int owner = Column("Owner", "Who"), due = Column("Due", "Due on", "Due date", "Date"), note = Column("Note", "Notes", "Remark");
        if (page < 0 && placement < 0)
        {
            throw new ConventionException("The sheet has neither a column “Page” nor a column “Placement”; name them so in its first row.");
        }

        int[] known = [page, placement, content, owner, due, note];
        var rows = new List<SheetPlannedRow>();
        for (int i = 1; i < table.Count; i++)
        {
            string Cell(int column) => column >= 0 && column < table[i].Count ? Unguarded(table[i][column].Trim()) : "";
            if (known.All(k => Cell(k).Length == 0))
            {
                continue;
            }

            var named = placements.FirstOrDefault(p => p.Name.Equals(Cell(placement), StringComparison.OrdinalIgnoreCase));
            var day = DateOf(Cell(due));
            string? problem = Cell(placement).Length > 0 && named is null ? $"There is no placement “{Cell(placement)}”; the row was read without it."
                : Cell(due).Length > 0 && day is null ? $"“{Cell(due)}” is no date; write it as 2026-03-01." : null;
            rows.Add(new SheetPlannedRow(
                i + 1, new PlannedRow(null, Cell(page), named?.Id, OrNull(Cell(content)), OrNull(Cell(owner)), day, OrNull(Cell(note))), named?.Name, problem));
        }

        return new PlanSheetRead(rows, [.. heads.Where((h, i) => h.Length > 0 && !known.Contains(i) && !Headings.Contains(h, StringComparer.OrdinalIgnoreCase))]);
    }

    private static string[] Cells(PlannedAnswer r) =>
    [
        r.Page, r.Placement ?? "", r.Content ?? "", r.Owner ?? "", r.DueOn?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "", r.Note ?? "",
        r.State.ToString().ToLowerInvariant(), r.Url ?? "", r.ShortUrl ?? "",
    ];

    private static List<List<string>> TableOf(MemoryStream file)
    {
        file.Position = 0;
        try
        {
            if (UploadedFile.IsZip(file))
            {
                ConventionSheet.ThrowIfNoWorkbook(file);
                return [.. file.Query(useHeaderRow: false).Cast<IDictionary<string, object?>>().Select(r => r.Values.Select(TextOf).ToList())];
            }

            using var text = new StreamReader(file, new UTF8Encoding(false, throwOnInvalidBytes: true), detectEncodingFromByteOrderMarks: true, leaveOpen: true);
            string all = text.ReadToEnd();
            if (all.Contains('\0', StringComparison.Ordinal))
            {
                throw new ConventionException("The file is neither a table of text nor an XLSX workbook.");
            }

            using var csv = CsvReader.FromText(all, new CsvReaderOptions { HasHeader = false, Separator = null });
            var rows = new List<List<string>>();
            while (csv.Read())
            {
                rows.Add([.. Enumerable.Range(0, csv.FieldCount).Select(csv.GetString)]);
            }

            return rows;
        }
        catch (DecoderFallbackException broken)
        {
            throw new ConventionException("The file is neither a table in UTF-8 nor an XLSX workbook; save it again as one of them.", broken);
        }
        catch (Exception broken) when (broken is not ConventionException and not OutOfMemoryException)
        {
            throw new ConventionException("The sheet can't be read; save it again as XLSX or CSV.", broken);
        }
    }

    private static string TextOf(object? cell) => cell switch
    {
        null => "",
        DateTime moment => moment.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        IFormattable number => number.ToString(null, CultureInfo.InvariantCulture),
        _ => cell.ToString() ?? "",
    };

    private static DateOnly? DateOf(string text) =>
        DateText.Read(text, DateForm.Day)?.First ?? DateText.Read(text, DateForm.PlainDay)?.First;

    /// <summary>The mark that keeps a text from running as a formula goes again when our own file comes back.</summary>
    private static string Unguarded(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;

    private static string? OrNull(string text) => text.Length == 0 ? null : text;
}
