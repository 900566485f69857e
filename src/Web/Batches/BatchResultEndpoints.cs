using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Web.Codes;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>Sheets going out, as they are read: however long one is, only a stretch of it is held at a time.</summary>
public static class BatchResultEndpoints
{
    private const int MostPictures = 5_000;
    private const int WrittenAtOnce = 1_000;

    /// <summary>Dots of a picture's module.</summary>
    private const int PictureDots = 4;

    public static void Map(RouteGroupBuilder group)
    {
        group
            .MapGet("/batches/{id:guid}/result.csv", CsvAsync)
            .WithName("ReadResultCsv")
            .WithSummary("Gives the sheet back with its links, as CSV.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
        group
            .MapGet("/batches/{id:guid}/result.xlsx", XlsxAsync)
            .WithName("ReadResultWorkbook")
            .WithSummary("Gives the sheet back with its links, as a workbook.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
        group
            .MapGet("/batches/{id:guid}/codes.zip", CodesAsync)
            .WithName("ReadBatchCodes")
            .WithSummary("Gives the codes of a batch.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "application/zip");
    }

    /// <summary><c>changed</c> leaves out rows without a new link; <c>original</c> leaves out every column that was not there before, but for the link.</summary>
    private static async Task<IResult> CsvAsync(
        Guid id,
        BeaconDb db,
        BatchRows rows,
        CancellationToken cancel,
        bool changed = false,
        bool original = false
    )
    {
        var batch = await db
            .Batches.AsNoTracking()
            .Where(b => b.Id == id)
            .Select(b => new
            {
                b.Name,
                b.Headings,
                b.Recipe,
                b.IsWorkbook,
                b.Encoding,
                b.Separator,
                b.LineEnd,
                b.AllQuoted,
                b.HeadingRow,
            })
            .SingleOrDefaultAsync(cancel);
        if (batch is null)
        {
            return Refusal.NotFound("batch").ToResult();
        }

        var recipe = BatchStore.RecipeOf(batch.Recipe);
        var form = batch.IsWorkbook ? new TextForm(',') : new TextForm(batch.Separator[0], batch.LineEnd, batch.AllQuoted);
        // What was read in an encoding fits it again, and links are ASCII (RFC 3986); a text beside them may hold more.
        var encoding =
            batch.IsWorkbook || !FileText.Holds(recipe.LinkText ?? "", batch.Encoding) ? FileEncoding.Utf8Marked : batch.Encoding;
        var above = await AboveAsync(db, id, batch.IsWorkbook, batch.HeadingRow, cancel);
        return Results.Stream(
            async body =>
            {
                await body.WriteAsync(
                    FileText.Encode(TableText.Write([.. above, BatchResult.Headings(batch.Headings, recipe, original)], form), encoding),
                    cancel
                );
                var some = new List<IReadOnlyList<string>>(WrittenAtOnce);
                await foreach (var (row, link) in rows.ResultsAsync(id, changed, cancel))
                {
                    some.Add(BatchResult.Cells(batch.Headings, recipe, row, link, original, guarded: true));
                    if (some.Count == WrittenAtOnce)
                    {
                        await WriteAsync();
                    }
                }

                await WriteAsync();

                async Task WriteAsync()
                {
                    await body.WriteAsync(FileText.EncodePart(TableText.Write(some, form), encoding), cancel);
                    some.Clear();
                }
            },
            "text/csv",
            $"{Path.GetFileNameWithoutExtension(batch.Name)} – tagged.csv"
        );
    }

    /// <summary>Rows above the headings of separated text, which say what the sheet is about; a workbook keeps them by itself.</summary>
    private static async Task<IReadOnlyList<IReadOnlyList<string>>> AboveAsync(
        BeaconDb db,
        Guid id,
        bool isWorkbook,
        int headingRow,
        CancellationToken cancel
    )
    {
        if (isWorkbook || headingRow == 1)
        {
            return [];
        }

        var brought = await db
            .Batches.Where(b => b.Id == id)
            .Select(b => new
            {
                b.File,
                b.Encoding,
                b.Separator,
            })
            .SingleAsync(cancel);
        return [.. TableText.Rows(FileText.Decode(brought.File, brought.Encoding), brought.Separator[0]).Take(headingRow - 1)];
    }

    /// <summary><c>codes</c> puts each code as a picture after the sheet's last column.</summary>
    private static async Task<IResult> XlsxAsync(
        Guid id,
        BeaconDb db,
        BatchRows rows,
        CancellationToken cancel,
        bool changed = false,
        bool original = false,
        bool codes = false
    )
    {
        var found = await db
            .Batches.AsNoTracking()
            .Where(b => b.Id == id)
            .Select(b => new
            {
                b.Name,
                b.IsWorkbook,
                b.Headings,
                b.Recipe,
                b.Sheet,
                b.HeadingRow,
            })
            .SingleOrDefaultAsync(cancel);
        if (found is null)
        {
            return Refusal.NotFound("batch").ToResult();
        }

        var above = await AboveAsync(db, id, found.IsWorkbook, found.HeadingRow, cancel);

        var recipe = BatchStore.RecipeOf(found.Recipe);
        string name = $"{Path.GetFileNameWithoutExtension(found.Name)} – tagged.xlsx";

        // In a workbook that was uploaded every row keeps its place, so none is left out.
        changed &= !found.IsWorkbook;
        var results = rows.ResultsAsync(id, changed, cancel);
        if (!found.IsWorkbook && !codes)
        {
            return Results.Stream(
                await PassingFile.WriteAsync(file => PlainWorkbook.WriteAsync(file, LinesAsync(), cancel)),
                ConventionSheet.ContentType,
                name
            );
        }

        byte[] workbook;
        if (found.IsWorkbook)
        {
            workbook = await BatchResult.IntoWorkbookAsync(
                await db.Batches.AsNoTracking().SingleAsync(b => b.Id == id, cancel),
                recipe,
                results,
                original,
                cancel
            );
        }
        else
        {
            using var plain = new MemoryStream();
            await PlainWorkbook.WriteAsync(plain, LinesAsync(), cancel);
            workbook = plain.ToArray();
        }

        if (!codes)
        {
            return Results.Bytes(workbook, ConventionSheet.ContentType, name);
        }

        var pictures = new List<(int Row, byte[] Png)>();
        int line = above.Count + 1;
        await foreach (var (row, link) in rows.ResultsAsync(id, changed, cancel))
        {
            line++;
            if (link?.Code is { } says)
            {
                pictures.Add(
                    (
                        found.IsWorkbook ? found.HeadingRow + row.Number : line,
                        CodePicture.Png(CodeDrawing.Of(says, new CodeStyle()), PictureDots)
                    )
                );
            }

            if (pictures.Count > MostPictures)
            {
                return Refusal
                    .Unacceptable(
                        "too-many-codes",
                        $"A workbook takes at most {MostPictures:N0} pictures; download the codes as a zip, or split the sheet."
                    )
                    .ToResult();
            }
        }

        return Results.Bytes(
            WorkbookPictures.Add(
                workbook,
                found.IsWorkbook ? found.Sheet : null,
                BatchResult.Headings(found.Headings, recipe, original).Count,
                pictures
            ),
            ConventionSheet.ContentType,
            name
        );

        async IAsyncEnumerable<IReadOnlyList<string>> LinesAsync()
        {
            foreach (var told in above)
            {
                yield return told;
            }

            yield return BatchResult.Headings(found.Headings, recipe, original);
            await foreach (var (row, link) in results)
            {
                yield return BatchResult.Cells(found.Headings, recipe, row, link, original);
            }
        }
    }

    /// <summary>The codes as single files, named by row and slug.</summary>
    private static async Task<IResult> CodesAsync(
        Guid id,
        BeaconDb db,
        BatchRows rows,
        TimeProvider clock,
        CancellationToken cancel,
        bool png = false,
        decimal mm = 30,
        int dpi = 300
    )
    {
        if (await db.Batches.AsNoTracking().Where(b => b.Id == id).Select(b => b.Name).SingleOrDefaultAsync(cancel) is not { } name)
        {
            return Refusal.NotFound("batch").ToResult();
        }

        if (mm is < 5 or > 1_000 || dpi is < 72 or > 2_400)
        {
            return Refusal.Invalid("code-size", "A code is 5 to 1,000 mm wide, at 72 to 2,400 dots per inch.").ToResult();
        }

        var style = new CodeStyle(mm, dpi);
        var sample = new CodeSample(png ? CodeFormat.Png : CodeFormat.Svg);
        Refusal? unreadable = null;
        var zip = await PassingFile.WriteAsync(file =>
            CodeZip.WriteAsync(file, NamedAsync(), png ? CodeFormat.Png : CodeFormat.Svg, clock.GetUtcNow(), cancel)
        );
        if (unreadable is not null)
        {
            await zip.DisposeAsync();
            return unreadable.ToResult();
        }

        return Results.Stream(zip, "application/zip", $"{Path.GetFileNameWithoutExtension(name)} – codes.zip");

        async IAsyncEnumerable<(string Name, CodeDrawing Code)> NamedAsync()
        {
            await foreach (var (row, link) in rows.ResultsAsync(id, linkedOnly: true, cancel))
            {
                if (link?.Code is { } says)
                {
                    var code = CodeDrawing.Of(says, style);
                    if (sample.WhyNot(code) is { } reason)
                    {
                        unreadable = Refusal.Unacceptable(
                            "code-unreadable",
                            $"The code of row {row.Number} doesn't scan: {reason} Make the codes larger."
                        );
                        yield break;
                    }

                    yield return ($"{row.Number:D5} {says[(says.LastIndexOf('/') + 1)..]}", code);
                }
            }
        }
    }
}
