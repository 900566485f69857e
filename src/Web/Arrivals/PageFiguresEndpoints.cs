using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Pages seen, entered and left.</summary>
public static class PageFiguresEndpoints
{
    private const int MostOnPage = 500;

    public static void MapPageFigures(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/arrivals/pages", ReadAsync)
            .WithName("ReadPageFigures")
            .WithSummary("Reports pages seen, entered and left.")
            .WithTags("Arrivals")
            .For(Caller.Readers);

    private static async Task<Outcome<PageFiguresAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        PageFiguresReader pages,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null,
        string? search = null,
        string sort = "seen",
        int page = 1,
        int size = 50
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        if (
            !sort.All(char.IsAsciiLetter)
            || !Enum.TryParse<PageOrder>(sort, ignoreCase: true, out var order)
            || page is < 1 or > int.MaxValue / MostOnPage
            || size is < 1 or > MostOnPage
        )
        {
            return Refusal.Invalid(
                "order-refused",
                $"Pages are ordered by seen, visits, entered or left, the most first; a page of the list has 1 to {MostOnPage} of them."
            );
        }

        var (read, found) = await pages.ReadAsync(
            request,
            await conventions.ReadAsync(cancel),
            search?.Trim() ?? "",
            order,
            (page - 1) * size,
            size,
            cancel
        );
        return new PageFiguresAnswer(
            request.From,
            request.To,
            [.. read.Select(PageFigureAnswer.Of)],
            found,
            workspace.RawFrom is { } raw && request.From < raw ? raw : null
        );
    }
}

/// <summary>Pages that were seen.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Pages">One page of the list, in the order asked for.</param>
/// <param name="Found">How many pages there are in all.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; pages of the days before are not known any more. Null else.</param>
public sealed record PageFiguresAnswer(DateOnly From, DateOnly To, IReadOnlyList<PageFigureAnswer> Pages, long Found, DateOnly? RawFrom);

/// <summary>What came of a page.</summary>
/// <param name="Page">Host and path.</param>
/// <param name="Seen">How often it was seen.</param>
/// <param name="Visits">In how many visits.</param>
/// <param name="Entered">Visits that began on it.</param>
/// <param name="Left">Visits that ended on it.</param>
/// <param name="LeftRate">Of the visits that saw it, those that ended on it; null where none saw it.</param>
/// <param name="SecondsPerView">From a view to the next one of its visit, on average; null where there was no next one.</param>
public sealed record PageFigureAnswer(
    string Page,
    long Seen,
    long Visits,
    long Entered,
    long Left,
    decimal? LeftRate,
    decimal? SecondsPerView
)
{
    public static PageFigureAnswer Of(PageFigures p) =>
        new(
            p.Page,
            p.Seen,
            p.Visits,
            p.Entered,
            p.Left,
            p.Visits == 0 ? null : (decimal)p.Left / p.Visits,
            p.Followed == 0 ? null : (decimal)p.Seconds / p.Followed
        );
}
