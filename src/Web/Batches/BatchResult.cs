using System.Globalization;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using BatchTable = PreciseBeacon.Core.Batches.Table;

namespace PreciseBeacon.Web.Batches;

/// <summary>
/// A sheet going out again: the columns that were uploaded, untouched and in their order, with what was made. Nothing of
/// ours is ever a formula.
/// </summary>
public static class BatchResult
{
    /// <summary>Columns that are added after the sheet's own.</summary>
    private static readonly string[] Added = ["Tagged link", "Short link", "QR link", "Created on", "Text"];

    /// <summary>The headings that go out.</summary>
    public static IReadOnlyList<string> Headings(IReadOnlyList<string> headings, Recipe recipe, bool originalOnly)
    {
        bool[] adds = Adds(InPlace(headings, recipe), recipe, originalOnly);
        return [.. headings, .. AddedTo(recipe).Where((_, i) => adds[i])];
    }

    /// <summary>A row that goes out.</summary>
    /// <param name="headings">The sheet's headings as written.</param>
    /// <param name="recipe">The recipe; it says whether the link goes in place of a column.</param>
    /// <param name="row">The row.</param>
    /// <param name="link">Its link's short links, or null.</param>
    /// <param name="originalOnly">Leaves out every column that was not there before, but for the link.</param>
    /// <param name="guarded">For a file in which a cell that begins like a formula would run as one.</param>
    public static IReadOnlyList<string> Cells(
        IReadOnlyList<string> headings,
        Recipe recipe,
        BatchRow row,
        RowLink? link,
        bool originalOnly,
        bool guarded = false
    )
    {
        int inPlace = InPlace(headings, recipe);
        bool[] adds = Adds(inPlace, recipe, originalOnly);
        var cells = row.Cells.ToList();
        bool hasAdded = adds.Contains(true);
        while (cells.Count < headings.Count && (hasAdded || cells.Count <= inPlace))
        {
            cells.Add("");
        }

        if (row.Url is not null && inPlace >= 0)
        {
            cells[inPlace] = row.Url;
        }

        // What is ours stands after the sheet's last heading, also in rows that are longer than that.
        cells.InsertRange(
            Math.Min(headings.Count, cells.Count),
            Values(headings, recipe, row, link).Where((_, i) => adds[i]).Select(v => guarded ? OwnTable.Guarded(v) : v)
        );
        return cells;
    }

    /// <summary>The workbook that was uploaded with our cells written into it; everything else in it stays as it is.</summary>
    public static async Task<byte[]> IntoWorkbookAsync(
        Batch batch,
        Recipe recipe,
        IAsyncEnumerable<(BatchRow Row, RowLink? Link)> rows,
        bool originalOnly,
        CancellationToken cancel
    )
    {
        using var file = new MemoryStream();
        await file.WriteAsync(batch.File, cancel);
        int inPlace = InPlace(batch.Headings, recipe);
        bool[] adds = Adds(inPlace, recipe, originalOnly);
        string[] added = [.. AddedTo(recipe).Where((_, i) => adds[i])];
        using (var document = SpreadsheetDocument.Open(file, isEditable: true))
        {
            var workbook = document.WorkbookPart!;
            var sheet = workbook.Workbook!.Descendants<Sheet>().First(s => s.Name?.Value == batch.Sheet);
            var data = ((WorksheetPart)workbook.GetPartById(sheet.Id!.Value!)).Worksheet!.GetFirstChild<SheetData>()!;
            var lines = data.Elements<Row>().ToDictionary(r => r.RowIndex!.Value);
            int first = batch.Headings.Count;
            Write(LineOf(batch.HeadingRow), first, added);
            await foreach (var (row, link) in rows.WithCancellation(cancel))
            {
                var line = LineOf(batch.HeadingRow + row.Number);
                if (row.Url is not null && inPlace >= 0)
                {
                    Write(line, inPlace, [row.Url]);
                }

                Write(line, first, [.. Values(batch.Headings, recipe, row, link).Where((_, i) => adds[i])]);
            }

            Row LineOf(int number)
            {
                if (!lines.TryGetValue((uint)number, out var line))
                {
                    line = new Row { RowIndex = (uint)number };
                    var before = lines.Keys.Where(k => k < (uint)number).DefaultIfEmpty(0u).Max();
                    _ = before == 0 ? data.InsertAt(line, 0) : data.InsertAfter(line, lines[before]);
                    lines[(uint)number] = line;
                }

                return line;
            }
        }

        return file.ToArray();
    }

    private static void Write(Row line, int column, string[] values)
    {
        for (int i = 0; i < values.Length; i++)
        {
            string reference = LetterOf(column + i) + line.RowIndex!.Value.ToString(CultureInfo.InvariantCulture);
            var cell = line.Elements<Cell>().FirstOrDefault(c => c.CellReference?.Value == reference);
            if (cell is null)
            {
                if (values[i].Length == 0)
                {
                    continue;
                }

                cell = new Cell { CellReference = reference };
                var after = line.Elements<Cell>().LastOrDefault(c => ColumnOf(c.CellReference?.Value ?? "") < column + i);
                _ = after is null ? line.InsertAt(cell, 0) : line.InsertAfter(cell, after);
            }

            cell.CellFormula = null;
            cell.CellValue = null;
            cell.DataType = CellValues.InlineString;
            cell.InlineString = new InlineString(
                new Text(PlainWorkbook.Printable(values[i])) { Space = SpaceProcessingModeValues.Preserve }
            );
        }
    }

    /// <summary>Columns of what goes out, our own among them.</summary>
    public static int Width(IReadOnlyList<string> headings, Recipe recipe, bool originalOnly) =>
        headings.Count + Adds(InPlace(headings, recipe), recipe, originalOnly).Count(adds => adds);

    private static int InPlace(IReadOnlyList<string> headings, Recipe recipe) =>
        recipe.Output?.Column is { } column ? new BatchTable(headings, []).Find(column) : -1;

    /// <summary>A column the links go into that the sheet doesn't have is added under that name, which never begins a formula.</summary>
    private static IEnumerable<string> AddedTo(Recipe recipe) =>
        Added.Select(
            (name, i) => i == 0 && TypedText.OrNull(recipe.Output?.Column?.TrimStart('=', '+', '-', '@')) is { } column ? column : name
        );

    private static bool[] Adds(int inPlace, Recipe recipe, bool originalOnly) =>
        originalOnly ? [inPlace < 0, false, false, false, false] : [inPlace < 0, recipe.Shorten, recipe.Shorten, true, HasText(recipe)];

    private static bool HasText(Recipe recipe) => !string.IsNullOrWhiteSpace(recipe.LinkText);

    private static string[] Values(IReadOnlyList<string> headings, Recipe recipe, BatchRow row, RowLink? link) =>
        [
            row.Url ?? "",
            link?.Text ?? "",
            link?.Code ?? "",
            link is null ? "" : link.MadeAt.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            row.Url is not null && HasText(recipe)
                ? RowRequest.TextOf(recipe.LinkText!, new BatchTable(headings, []), row.Cells, link?.Text ?? row.Url)
                : "",
        ];

    /// <summary>The letters of a column, from 0.</summary>
    public static string LetterOf(int column)
    {
        string letters = "";
        for (int rest = column + 1; rest > 0; rest = (rest - 1) / 26)
        {
            letters = (char)('A' + ((rest - 1) % 26)) + letters;
        }

        return letters;
    }

    private static int ColumnOf(string reference)
    {
        int column = 0;
        foreach (char letter in reference.TakeWhile(char.IsAsciiLetterUpper))
        {
            column = (column * 26) + (letter - 'A' + 1);
        }

        return column - 1;
    }
}
