using System.Text.Json;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Costs;

/// <summary>Costs from files: shown first or kept at once, replaced when the same day comes again, undone any time.</summary>
public static class CostImportEndpoints
{
    private const int MostMegabytes = 50;

    public static void MapCostImports(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/imports/costs").WithTags("Costs");
        group
            .MapPost("", TakeAsync)
            .WithName("ImportCosts")
            .WithSummary("Imports costs by day from a CSV or XLSX file; can show first what it would take.")
            .WithDescription(
                "A form (multipart) with the file as “file” and, where the headings don't say it all, a “recipe” as JSON that names the columns: {\"day\", \"amount\", \"currency\", \"link\", \"campaign\", \"placement\", \"values\": {key: column}, \"inCurrency\", \"decimal\", \"dayFirst\"}. A day of the same target that was imported before is replaced."
            )
            .For(Caller.Builders)
            .Produces<CostImportAnswer>()
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity)
            .WithMetadata(new RequestSizeLimitAttribute((MostMegabytes + 1L) << 20));
        group
            .MapGet("", (CostImporter importer, CancellationToken cancel) => importer.ListAsync(cancel))
            .WithName("ListCostImports")
            .WithSummary("Lists imports of costs, the newest first.")
            .For(Caller.Readers)
            .Produces<List<CostImportRow>>();
        group
            .MapPost("/{id:guid}/undo", (Guid id, CostImporter importer, CancellationToken cancel) => importer.UndoAsync(id, true, cancel))
            .WithName("UndoCostImport")
            .WithSummary("Takes the costs of an import out of all figures; what it replaced counts again.")
            .For(Caller.Builders);
        group
            .MapPost("/{id:guid}/redo", (Guid id, CostImporter importer, CancellationToken cancel) => importer.UndoAsync(id, false, cancel))
            .WithName("RedoCostImport")
            .WithSummary("Puts the costs of an undone import back.")
            .For(Caller.Builders);
    }

    private static async Task<IResult> TakeAsync(HttpContext context, CostImporter importer, CancellationToken cancel, bool dry = false)
    {
        if (!context.Request.HasFormContentType)
        {
            return Refusal.Invalid("file-missing", "Send the file as “file” of a form (multipart).").ToResult();
        }

        IFormCollection form;
        try
        {
            form = await context.Request.ReadFormAsync(cancel);
        }
        catch (Exception broken) when (broken is InvalidDataException or IOException)
        {
            return Refusal.Invalid("file-missing", "Send the file as “file” of a form, whole.").ToResult();
        }

        if (form.Files.GetFile("file") is not { Length: > 0 } sent)
        {
            return Refusal.Invalid("file-missing", "There is no file, or it is empty; choose a table of costs.").ToResult();
        }

        if (sent.Length > (long)MostMegabytes << 20)
        {
            return Refusal.TooLarge("file-too-large", $"A table of costs has at most {MostMegabytes} MB.").ToResult();
        }

        CostRecipe? recipe = null;
        try
        {
            recipe = form["recipe"].ToString() is { Length: > 0 } json
                ? JsonSerializer.Deserialize<CostRecipe>(json, JsonSerializerOptions.Web)
                : null;
        }
        catch (JsonException)
        {
            return Refusal.Invalid("recipe-malformed", "The recipe isn't a JSON object that names columns.").ToResult();
        }

        var file = new MemoryStream();
        await sent.CopyToAsync(file, cancel);
        try
        {
            var outcome = await importer.TakeAsync(
                SheetFile.Read(file.ToArray(), cancel),
                Path.GetFileName(sent.FileName),
                recipe,
                dry,
                cancel
            );
            return outcome.Refusal is { } refusal ? refusal.ToResult() : TypedResults.Ok(outcome.Value);
        }
        catch (SheetException broken)
        {
            return Refusal.Unacceptable("sheet-refused", broken.Message).ToResult();
        }
    }
}
