using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Spots of a site's own pages, seen and clicked.</summary>
public static class SpotEndpoints
{
    private const int MostOnPage = 500;

    public static void MapSpots(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/arrivals/spots", ReadAsync)
            .WithName("ReadSpots")
            .WithSummary("Reports spots seen and clicked inside one's own site, and conversions after.")
            .WithTags("Arrivals")
            .For(Caller.Readers);

    private static async Task<Outcome<SpotsAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        SpotReader spots,
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
            || !Enum.TryParse<SpotOrder>(sort, ignoreCase: true, out var order)
            || page is < 1 or > int.MaxValue / MostOnPage
            || size is < 1 or > MostOnPage
        )
        {
            return Refusal.Invalid(
                "order-refused",
                $"Spots are ordered by seen, clicked, rate or conversions, the most first; a page of the list has 1 to {MostOnPage} of them."
            );
        }

        var (read, found) = await spots.ReadAsync(
            request,
            await conventions.ReadAsync(cancel),
            search?.Trim() ?? "",
            order,
            (page - 1) * size,
            size,
            cancel
        );
        return new SpotsAnswer(
            request.From,
            request.To,
            [.. read.Select(SpotAnswer.Of)],
            found,
            workspace.RawFrom is { } raw && request.From < raw ? raw : null
        );
    }
}

/// <summary>Spots of a site's own pages.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Spots">One page of them, in the order asked for.</param>
/// <param name="Found">How many there are in all.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; spots of the days before are not known any more. Null else.</param>
public sealed record SpotsAnswer(DateOnly From, DateOnly To, IReadOnlyList<SpotAnswer> Spots, long Found, DateOnly? RawFrom);

/// <summary>What came of a spot.</summary>
/// <param name="Name">As the page names it.</param>
/// <param name="Seen">How often half of it was in view for a second, at most once for each page view.</param>
/// <param name="SeenVisits">In how many visits.</param>
/// <param name="Clicked">How often it was clicked.</param>
/// <param name="ClickedVisits">In how many visits.</param>
/// <param name="ClickRate">Of the visits that saw it, those that clicked it; null where none saw it.</param>
/// <param name="ConversionsAfterSeen">Conversions later in visits that saw it.</param>
/// <param name="ConversionsAfterClicked">Conversions later in visits that clicked it.</param>
public sealed record SpotAnswer(
    string Name,
    long Seen,
    long SeenVisits,
    long Clicked,
    long ClickedVisits,
    decimal? ClickRate,
    long ConversionsAfterSeen,
    long ConversionsAfterClicked
)
{
    public static SpotAnswer Of(SpotFigures s) =>
        new(
            s.Name,
            s.Seen,
            s.SeenVisits,
            s.Clicked,
            s.ClickedVisits,
            s.SeenVisits == 0 ? null : (decimal)s.SeenAndClicked / s.SeenVisits,
            s.AfterSeen,
            s.AfterClicked
        );
}
