using System.Globalization;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Counts of one link.</summary>
public static class ResultEndpoints
{
    public static void MapResults(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Ledger");
        group
            .MapGet("/links/{id:guid}/counts", CountsAsync)
            .WithName("ReadLinkCounts")
            .WithSummary("Counts a link's clicks, scans and visits over time.")
            .For(Caller.Readers);
    }

    private static async Task<Outcome<LinkResultsAnswer>> CountsAsync(
        Guid id,
        LinkResults results,
        CancellationToken cancel,
        string range = "month",
        string? from = null,
        string? to = null
    ) => await results.ReadAsync(id, range, Day(from), Day(to), cancel);

    private static DateOnly? Day(string? text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}
