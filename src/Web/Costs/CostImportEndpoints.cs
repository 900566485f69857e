using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Imports;

namespace PreciseBeacon.Web.Costs;

/// <summary>Costs from files: shown first or kept at once, replaced when the same day comes again, undone any time.</summary>
public static class CostImportEndpoints
{
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
            .TakesSheet();
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

    private static async Task<Outcome<CostImportAnswer>> TakeAsync(
        HttpContext context,
        CostImporter importer,
        CancellationToken cancel,
        bool dry = false
    )
    {
        var sent = await SheetUploads.ReadAsync<CostRecipe>(context, "costs", cancel);
        return sent.Refusal is { } refusal
            ? refusal
            : await importer.TakeAsync(sent.Value!.Table, sent.Value.Name, sent.Value.Recipe, dry, cancel);
    }
}
