using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Batches;

/// <summary>Sheets in, links made by a recipe, sheets out.</summary>
public static class BatchEndpoints
{
    private const int MostRowsShown = 500;
    private const int LongestName = 200;

    public static void MapBatches(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Batches").TellTheLater();
        group.MapGet("/batches", ListAsync).WithName("ListBatches").WithSummary("Lists uploaded sheets.").For(Caller.Readers);
        group
            .MapPost("/batches", MakeAsync)
            .WithName("BringSheet")
            .WithSummary("Takes a sheet in; with a recipe it is run at once.")
            .For(Caller.Builders)
            .Produces<BatchMade>(StatusCodes.Status201Created)
            .WithMetadata(new RequestSizeLimitAttribute((SheetFile.MostMegabytes + 1L) << 20));
        group
            .MapGet("/batches/workbook-to-fill", WorkbookAsync)
            .WithName("ReadSheetToFill")
            .WithSummary("Gives a workbook to fill in, with the convention's words to choose from.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
        group
            .MapGet("/batches/{id:guid}", OneAsync)
            .WithName("ReadBatch")
            .WithSummary("Reads a batch with how far it is.")
            .For(Caller.Readers);
        group
            .MapDelete("/batches/{id:guid}", CancelAsync)
            .WithName("CancelBatch")
            .WithSummary("Stops the run of a batch.")
            .For(Caller.Builders);
        group
            .MapGet("/batches/{id:guid}/rows", RowsAsync)
            .WithName("ListBatchRows")
            .WithSummary("Lists rows of a batch with what would come of each.")
            .For(Caller.Readers);
        group
            .MapPut("/batches/{id:guid}/recipe", RecipeAsync)
            .WithName("ChangeRecipe")
            .WithSummary("Changes the recipe of a batch.")
            .For(Caller.Builders);
        group
            .MapPut("/batches/{id:guid}/overrides", OverrideAsync)
            .WithName("TypeIntoRows")
            .WithSummary("Types values for single rows.")
            .For(Caller.Builders);
        group
            .MapPost("/batches/{id:guid}/repair", RepairAsync)
            .WithName("RepairRows")
            .WithSummary("Repairs every row with the same notice.")
            .For(Caller.Builders);
        group
            .MapPost("/batches/{id:guid}/undo", UndoAsync)
            .WithName("UndoEdit")
            .WithSummary("Takes the last edit back.")
            .For(Caller.Builders);
        group
            .MapPost("/batches/{id:guid}/redo", RedoAsync)
            .WithName("RedoEdit")
            .WithSummary("Puts the last edit again.")
            .For(Caller.Builders);
        group
            .MapGet("/batches/{id:guid}/difference", DifferenceAsync)
            .WithName("CompareSheets")
            .WithSummary("Tells what a later sheet says that the earlier did not.")
            .For(Caller.Readers);
        group
            .MapPut("/batches/{id:guid}/reading", ReadAgainAsync)
            .WithName("ReadSheetAgain")
            .WithSummary("Reads the sheet in another way, until its first run.")
            .For(Caller.Builders);
        group
            .MapPost("/batches/{id:guid}/count", CountAsync)
            .WithName("PreviewRun")
            .WithSummary("Previews a run; the counts come line by line.")
            .For(Caller.Builders)
            .Produces<CountProgress>(contentType: JsonLines.ContentType);
        group.MapPost("/batches/{id:guid}/run", RunAsync).WithName("RunBatch").WithSummary("Starts a run.").For(Caller.Builders);
        BatchResultEndpoints.Map(group);
        group.MapGet("/recipes", RecipesAsync).WithName("ListRecipes").WithSummary("Lists saved recipes.").For(Caller.Readers);
        group
            .MapPost("/recipes", KeepRecipeAsync)
            .WithName("SaveRecipe")
            .WithSummary("Saves a batch's recipe under a name.")
            .For(Caller.Builders);
        group
            .MapDelete("/recipes/{id:guid}", ForgetRecipeAsync)
            .WithName("DeleteRecipe")
            .WithSummary("Deletes a saved recipe.")
            .For(Caller.Builders);
    }

    private static async Task<Ok<List<BatchSummary>>> ListAsync(BatchStore store, CancellationToken cancel) =>
        TypedResults.Ok(await store.ListAsync(cancel));

    /// <summary>
    /// Takes a <c>file</c> in (multipart). With a <c>recipe</c> as JSON it is run at once; without one a recipe is kept or
    /// guessed, and somebody looks it over first.
    /// </summary>
    private static async Task<IResult> MakeAsync(
        HttpContext context,
        BatchStore store,
        NextFile next,
        BatchRunner runner,
        BatchHost host,
        CancellationToken cancel
    )
    {
        if (!context.Request.HasFormContentType)
        {
            return Refusal.Invalid("file-missing", "Send the sheet as “file” of a form.").ToResult();
        }

        try
        {
            var form = await context.Request.ReadFormAsync(cancel);
            if (form.Files["file"] is not { Length: > 0 } file)
            {
                return Refusal.Invalid("file-missing", "There is no file, or it is empty; choose a sheet.").ToResult();
            }

            if (file.Length > (long)SheetFile.MostMegabytes << 20)
            {
                return TooLarge().ToResult();
            }

            var recipe = form["recipe"].ToString() is { Length: > 0 } json
                ? JsonSerializer.Deserialize<Recipe>(json, BatchStore.Json)
                : null;
            byte[] content = new byte[file.Length];
            await using (var stream = file.OpenReadStream())
            {
                await stream.ReadExactlyAsync(content, cancel);
            }

            string name = Path.GetFileName(file.FileName);
            Guid? follows = Guid.TryParse(form["follows"], out var earlier) ? earlier : null;
            var batch = await store.TakeInAsync(
                name.Length is 0 or > LongestName ? "Sheet" : name,
                content,
                new SheetReading(),
                recipe,
                follows,
                cancel
            );
            if (batch.Follows is not null)
            {
                await next.CarryOnAsync(batch.Id, cancel);
            }

            if (recipe is not null)
            {
                var (_, refusal) = await runner.BeginAsync(batch.Id, cancel);
                if (refusal is not null)
                {
                    return refusal.ToResult();
                }

                host.Wake();
            }

            return TypedResults.Created($"/api/v1/batches/{batch.Id}", new BatchMade(batch.Id));
        }
        catch (JsonException broken)
        {
            return Refusal.Invalid("recipe-refused", $"The recipe can't be read: {broken.Message}").ToResult();
        }
        catch (SheetException broken)
        {
            return Refusal.Unacceptable("sheet-refused", broken.Message).ToResult();
        }
        catch (BadHttpRequestException tooLarge) when (tooLarge.StatusCode == StatusCodes.Status413PayloadTooLarge)
        {
            return TooLarge().ToResult();
        }
        catch (InvalidDataException)
        {
            return TooLarge().ToResult();
        }
    }

    /// <summary>A workbook to be filled elsewhere, with the lists of the convention that holds; brought back it maps by itself.</summary>
    private static async Task<IResult> WorkbookAsync(BeaconDb db, ConventionReader conventions, CancellationToken cancel)
    {
        var placements = await db.Placements.Where(p => p.RetiredAt == null).OrderBy(p => p.Name).Select(p => p.Name).ToListAsync(cancel);
        var campaigns = await db.Campaigns.Where(c => c.ArchivedAt == null).OrderBy(c => c.Name).Select(c => c.Name).ToListAsync(cancel);
        return Results.Bytes(
            WorkbookToFill.Write(BatchTemplate.Columns(await conventions.ReadAsync(cancel), placements, campaigns)),
            ConventionSheet.ContentType,
            "links to fill.xlsx"
        );
    }

    private static async Task<Outcome<BatchAnswer>> OneAsync(Guid id, BatchStore store, CancellationToken cancel) =>
        await store.OneAsync(id, cancel) is { } batch ? batch : Refusal.NotFound("batch");

    private static async Task<Refusal?> CancelAsync(Guid id, BatchRunner runner, CancellationToken cancel) =>
        await runner.CancelAsync(id, cancel) ? null : Refusal.NotFound("batch");

    /// <summary>What the sheet says that the one it follows did not.</summary>
    private static async Task<Outcome<DifferenceAnswer>> DifferenceAsync(Guid id, NextFile next, CancellationToken cancel) =>
        await next.DifferenceAsync(id, cancel) is { } difference ? difference : Refusal.NotFound("earlier batch");

    /// <summary><c>sort</c> is a column's position from 0, or -1 for the outcome; without it rows come in the order of the sheet.</summary>
    private static async Task<Outcome<BatchRowsAnswer>> RowsAsync(
        Guid id,
        BatchStore store,
        CancellationToken cancel,
        string? outcome = null,
        string? rule = null,
        int? sort = null,
        bool descending = false,
        int skip = 0,
        int most = 100
    ) =>
        await store.RowsAsync(
            id,
            outcome,
            rule,
            new RowOrder(sort is { } column ? Math.Clamp(column, RowOrder.Outcome, SheetLimits.MostColumns) : null, descending),
            Math.Max(0, skip),
            Math.Clamp(most, 1, MostRowsShown),
            cancel
        )
            is { } rows
            ? rows
            : Refusal.NotFound("batch");

    private static async Task<Outcome<BatchAnswer>> RecipeAsync(Guid id, RecipeChange change, BatchStore store, CancellationToken cancel) =>
        await store.ChangeRecipeAsync(id, change, cancel) is { } refusal
            ? refusal
            : Outcome.Found(await store.OneAsync(id, cancel), "batch");

    private static async Task<Outcome<EditAnswer>> OverrideAsync(
        Guid id,
        OverrideChange change,
        RowEdits typing,
        CancellationToken cancel
    ) => await typing.TypeAsync(id, change, cancel);

    private static async Task<Outcome<EditAnswer>> RepairAsync(Guid id, RepairChange change, RowEdits typing, CancellationToken cancel) =>
        await typing.RepairAsync(id, change, cancel);

    private static async Task<Outcome<EditAnswer>> UndoAsync(Guid id, RowEdits typing, CancellationToken cancel) =>
        await typing.StepAsync(id, back: true, cancel);

    private static async Task<Outcome<EditAnswer>> RedoAsync(Guid id, RowEdits typing, CancellationToken cancel) =>
        await typing.StepAsync(id, back: false, cancel);

    private static async Task<Outcome<BatchAnswer>> ReadAgainAsync(
        Guid id,
        SheetReading reading,
        BatchStore store,
        CancellationToken cancel
    )
    {
        try
        {
            return await store.ReadAgainAsync(id, reading, cancel) is { } refusal
                ? refusal
                : Outcome.Found(await store.OneAsync(id, cancel), "batch");
        }
        catch (SheetException broken)
        {
            return Refusal.Unacceptable("sheet-refused", broken.Message);
        }
    }

    private static async Task<IResult> CountAsync(Guid id, HttpContext context, BeaconDb db, BatchStore store, CancellationToken cancel)
    {
        if (!await db.Batches.AnyAsync(b => b.Id == id, cancel))
        {
            return Refusal.NotFound("batch").ToResult();
        }

        return await JsonLines.SendAllAsync(context, store.CountAsync(id, cancel), cancel);
    }

    private static async Task<Results<Accepted<BatchAnswer>, ProblemHttpResult>> RunAsync(
        Guid id,
        BatchRunner runner,
        BatchStore store,
        BatchHost host,
        CancellationToken cancel
    )
    {
        var (run, refusal) = await runner.BeginAsync(id, cancel);
        if (run is null)
        {
            return refusal!.ToResult();
        }

        host.Wake();
        return TypedResults.Accepted($"/api/v1/batches/{id}", await store.OneAsync(id, cancel));
    }

    private static async Task<Ok<List<SavedRecipeAnswer>>> RecipesAsync(BeaconDb db, CancellationToken cancel, Guid? batch = null)
    {
        var headings = await db.Batches.Where(b => b.Id == batch).Select(b => b.Headings).SingleOrDefaultAsync(cancel);
        var table = new Table(headings ?? [], []);
        var kept = await db.SavedRecipes.AsNoTracking().OrderBy(r => r.Name).ToListAsync(cancel);
        return TypedResults.Ok(
            kept.Select(r => new SavedRecipeAnswer(
                    r.Id,
                    r.Name,
                    r.Headings,
                    BatchStore.RecipeOf(r.Recipe),
                    headings is not null && RecipeGuess.Fits(r.Headings, table),
                    r.SavedBy,
                    r.SavedAt
                ))
                .ToList()
        );
    }

    private static async Task<Refusal?> KeepRecipeAsync(
        SaveRecipeRequest request,
        BeaconDb db,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Trim().Length > LongestName)
        {
            return Refusal.Invalid("recipe-refused", $"A saved recipe needs a name of at most {LongestName} characters.");
        }

        var batch = await db
            .Batches.Where(b => b.Id == request.Batch)
            .Select(b => new { b.Headings, b.Recipe })
            .SingleOrDefaultAsync(cancel);
        if (batch is null)
        {
            return Refusal.NotFound("batch");
        }

        string name = request.Name.Trim();
        var kept = await db.SavedRecipes.SingleOrDefaultAsync(r => r.Name == name, cancel);
        if (kept is null)
        {
            kept = new SavedRecipe
            {
                Name = name,
                Recipe = batch.Recipe,
                SavedBy = auditLog.Who,
            };
            db.SavedRecipes.Add(kept);
        }

        auditLog.Add("recipe", kept.Id, null, new { name, batch.Recipe });
        (kept.Headings, kept.Recipe, kept.SavedBy, kept.SavedAt) = (
            [.. new Table(batch.Headings, []).Names],
            batch.Recipe,
            auditLog.Who,
            clock.GetUtcNow()
        );
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static async Task<Refusal?> ForgetRecipeAsync(Guid id, BeaconDb db, CancellationToken cancel) =>
        await db.SavedRecipes.Where(r => r.Id == id).ExecuteDeleteAsync(cancel) == 0 ? Refusal.NotFound("recipe") : null;

    private static Refusal TooLarge() =>
        Refusal.TooLarge("file-too-large", $"A sheet has at most {SheetFile.MostMegabytes} MB; split the file.");
}
