using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>The Ledger as files.</summary>
public static class LedgerFileEndpoints
{
    public static void MapLedgerFiles(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Ledger");
        group
            .MapGet("/links.csv", CsvAsync)
            .WithName("ReadLedgerCsv")
            .WithSummary("Gives the Ledger as CSV.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
        group
            .MapGet("/links.xlsx", XlsxAsync)
            .WithName("ReadLedgerWorkbook")
            .WithSummary("Gives the Ledger as a workbook.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
    }

    private static async Task<IResult> CsvAsync([AsParameters] LedgerQuery asked, LedgerFiles files, CancellationToken cancel)
    {
        var (lines, refusal) = await files.LinesAsync(asked, cancel);
        return lines is null ? refusal!.ToResult() : Results.Bytes(OwnTable.Csv(lines), OwnTable.CsvType, "links.csv");
    }

    private static async Task<IResult> XlsxAsync([AsParameters] LedgerQuery asked, LedgerFiles files, CancellationToken cancel)
    {
        var (lines, refusal) = await files.LinesAsync(asked, cancel);
        return lines is null
            ? refusal!.ToResult()
            : Results.Bytes(OwnTable.Xlsx(lines, "Links"), ConventionSheet.ContentType, "links.xlsx");
    }
}
