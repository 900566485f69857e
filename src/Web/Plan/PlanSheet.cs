using System.Globalization;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Planned links as a sheet, out and in: XLSX or CSV.</summary>
public static class PlanSheet
{
    private static readonly string[] Headings = ["Page", "Placement", "Content", "Owner", "Due", "Note", "State", "Link", "Short link"];

    /// <summary>Planned links as rows of a table, headings first.</summary>
    public static IEnumerable<IReadOnlyList<string>> Rows(IReadOnlyList<PlannedAnswer> rows) => rows.Select(Cells).Prepend(Headings);

    /// <summary>Reads a sheet; its first row has the headings.</summary>
    /// <exception cref="SheetException">The file can't be read as a sheet, or has no column that is known.</exception>
    public static PlanSheetRead Read(byte[] file, IReadOnlyList<Placement> placements, CancellationToken cancel)
    {
        var table = SheetFile.Read(file, cancel);
        var heads = table.Headings.Select(h => h.Trim()).ToList();
        int Column(params string[] names) => heads.FindIndex(h => names.Contains(h, StringComparer.OrdinalIgnoreCase));
        int page = Column("Page", "Landing page", "URL", "Address", "Destination"),
            placement = Column("Placement", "Where"),
            content = Column("Content", "Variant");
        int owner = Column("Owner", "Who"),
            due = Column("Due", "Due on", "Due date", "Date"),
            note = Column("Note", "Notes", "Remark");
        if (page < 0 && placement < 0)
        {
            throw new SheetException("The sheet has neither a column “Page” nor a column “Placement”; name them so in its first row.");
        }

        int[] known = [page, placement, content, owner, due, note];
        var rows = new List<SheetPlannedRow>();
        for (int i = 0; i < table.Rows.Count; i++)
        {
            string Cell(int column) => OwnTable.Unguarded(Table.Cell(table.Rows[i], column).Trim());
            if (known.All(k => Cell(k).Length == 0))
            {
                continue;
            }

            var named = placements.FirstOrDefault(p => p.Name.Equals(Cell(placement), StringComparison.OrdinalIgnoreCase));
            var day = DateOf(Cell(due));
            string? problem =
                Cell(placement).Length > 0 && named is null ? $"There is no placement “{Cell(placement)}”; the row was read without it."
                : Cell(due).Length > 0 && day is null ? $"“{Cell(due)}” isn't a date; write it like 2026-03-01."
                : null;
            rows.Add(
                new SheetPlannedRow(
                    i + 2,
                    new PlannedRow(null, Cell(page), named?.Id, OrNull(Cell(content)), OrNull(Cell(owner)), day, OrNull(Cell(note))),
                    named?.Name,
                    problem
                )
            );
        }

        return new PlanSheetRead(
            rows,
            [.. heads.Where((h, i) => h.Length > 0 && !known.Contains(i) && !Headings.Contains(h, StringComparer.OrdinalIgnoreCase))]
        );
    }

    private static string[] Cells(PlannedAnswer r) =>
        [
            r.Page,
            r.Placement ?? "",
            r.Content ?? "",
            r.Owner ?? "",
            r.DueOn?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "",
            r.Note ?? "",
            r.State.ToString().ToLowerInvariant(),
            r.Url ?? "",
            r.ShortUrl ?? "",
        ];

    private static DateOnly? DateOf(string text) =>
        DateText.Read(text, DateForm.Day)?.First ?? DateText.Read(text, DateForm.PlainDay)?.First;

    private static string? OrNull(string text) => text.Length == 0 ? null : text;
}
