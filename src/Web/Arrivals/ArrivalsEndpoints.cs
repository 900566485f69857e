using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>The reports of tagged traffic.</summary>
public static class ArrivalsEndpoints
{
    private const int MostLevels = 5;
    private const int MostConditions = 20;

    /// <summary>Days of a report at most.</summary>
    internal const int LongestRange = 366 * 10;

    private const int MostLinks = 12;
    private const string PdfType = "application/pdf";

    public static void MapArrivals(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Arrivals");
        group
            .MapGet("/arrivals", GetAsync)
            .WithName("ReadArrivals")
            .WithSummary("Reports visits, conversions and revenue, by rows.")
            .For(Caller.Readers);
        group
            .MapGet("/arrivals.csv", CsvAsync)
            .WithName("ExportArrivalsCsv")
            .WithSummary("Exports the rows of a report as CSV.")
            .Produces(StatusCodes.Status200OK, contentType: OwnTable.CsvType)
            .For(Caller.Readers);
        group
            .MapGet("/arrivals.xlsx", XlsxAsync)
            .WithName("ExportArrivalsXlsx")
            .WithSummary("Exports the rows of a report as a workbook.")
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType)
            .For(Caller.Readers);
        group
            .MapGet("/arrivals.pdf", PdfAsync)
            .WithName("ExportArrivalsPdf")
            .WithSummary("Exports a report as one or two pages to print.")
            .Produces(StatusCodes.Status200OK, contentType: PdfType)
            .For(Caller.Readers);
        group
            .MapGet("/arrivals/links", LinksAsync)
            .WithName("ListLinksOfRow")
            .WithSummary("Lists the links a row of the report means.")
            .For(Caller.Readers);
    }

    private static async Task<Outcome<ArrivalsAnswer>> GetAsync(
        [AsParameters] ArrivalsQuery query,
        ArrivalsReport report,
        CancellationToken cancel
    ) => await report.ReadAsync(query, cancel);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> CsvAsync(
        [AsParameters] ArrivalsQuery query,
        ArrivalsReport report,
        CancellationToken cancel
    )
    {
        var (table, refusal) = await report.TableAsync(query, cancel);
        return table is null ? refusal!.ToResult() : TypedResults.Bytes(OwnTable.Csv(table.Rows), OwnTable.CsvType, "arrivals.csv");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> XlsxAsync(
        [AsParameters] ArrivalsQuery query,
        ArrivalsReport report,
        CancellationToken cancel
    )
    {
        var (table, refusal) = await report.TableAsync(query, cancel);
        return table is null
            ? refusal!.ToResult()
            : TypedResults.Bytes(
                OwnTable.Xlsx([("Rows", table.Rows), ("About", table.About)]),
                ConventionSheet.ContentType,
                "arrivals.xlsx"
            );
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        [AsParameters] ArrivalsQuery query,
        [AsParameters] PrintQuery print,
        ArrivalsReport report,
        CancellationToken cancel
    )
    {
        var (file, refusal) = await report.PdfAsync(query, print, cancel);
        return file is null ? refusal!.ToResult() : TypedResults.Bytes(file, PdfType, "arrivals.pdf");
    }

    /// <summary>The links the visits of a row came by, most visits first and at most 12; <paramref name="where"/> names the row.</summary>
    private static async Task<Outcome<List<ArrivalLinkAnswer>>> LinksAsync(
        BeaconDb db,
        ConventionReader conventions,
        ArrivalsReader arrivals,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        var found = await arrivals.LinksAsync(request, await conventions.ReadAsync(cancel), MostLinks, cancel);
        var ids = found.Select(f => f.LinkId).ToList();
        var links = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id))
            .Select(l => new
            {
                l.Id,
                l.Title,
                l.Url,
            })
            .ToDictionaryAsync(l => l.Id, cancel);
        return found
            .Where(f => links.ContainsKey(f.LinkId))
            .Select(f => new ArrivalLinkAnswer(f.LinkId, links[f.LinkId].Title ?? links[f.LinkId].Url, f.Visits))
            .ToList();
    }

    internal static Outcome<ArrivalsRequest> RequestOf(
        Workspace workspace,
        TimeProvider clock,
        DateOnly? from,
        DateOnly? to,
        string rows,
        string[]? where
    )
    {
        var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
        var last = to ?? today;
        var first = from ?? last.AddDays(-29);
        if (first > last || last.DayNumber - first.DayNumber > LongestRange)
        {
            return Refusal.Invalid("range-refused", "The range ends before it begins, or is longer than ten years; choose other days.");
        }

        var fields = rows.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(RowField.Parse)
            .ToList();
        if (fields.Count > MostLevels || fields.Contains(null))
        {
            return Refusal.Invalid(
                "rows-refused",
                $"Rows are up to {MostLevels} of {string.Join(", ", RowField.AllNames)}, separated by commas."
            );
        }

        var conditions = (where ?? []).Select(RowCondition.Parse).ToList();
        if (conditions.Count > MostConditions || conditions.Contains(null))
        {
            return Refusal.Invalid(
                "where-refused",
                $"A condition is a field, a test and a value, such as source:is:the_trellis; tests are is, not, contains and in. There are at most {MostConditions}."
            );
        }

        return new ArrivalsRequest(
            workspace.Id,
            workspace.Currency,
            first,
            last,
            [.. fields.OfType<RowField>()],
            RowCondition.Gathered(conditions.OfType<RowCondition>())
        )
        {
            Today = today,
        };
    }
}
