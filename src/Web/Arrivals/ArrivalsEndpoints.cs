using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>The reports of tagged traffic.</summary>
public static class ArrivalsEndpoints
{
    private const int MostLevels = 3;
    private const int LongestRange = 366 * 10;

    private const int MostLinks = 12;

    public static void MapArrivals(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Arrivals");
        group
            .MapGet("/arrivals", GetAsync)
            .WithName("ReadArrivals")
            .WithSummary("Reports visits, conversions and revenue, by rows.")
            .For(Caller.Readers);
        group
            .MapGet("/arrivals/links", LinksAsync)
            .WithName("ListLinksOfRow")
            .WithSummary("Lists the links a row of the report means.")
            .For(Caller.Readers);
    }

    /// <summary>
    /// <paramref name="rows"/> are dimensions separated by commas; each <paramref name="where"/> is <c>dimension:value</c>,
    /// with an empty value for visits without one.
    /// </summary>
    private static async Task<Outcome<ArrivalsAnswer>> GetAsync(
        BeaconDb db,
        ConventionReader conventions,
        ArrivalsReader arrivals,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        string rows = "campaign",
        string[]? where = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = RequestOf(workspace, clock, from, to, rows, where);
        if (request is null)
        {
            return refusal!;
        }

        var read = await arrivals.ReadAsync(request, await conventions.ReadAsync(cancel), cancel);
        return (
            new ArrivalsAnswer(
                request.From,
                request.To,
                [.. read.Rows.Select(r => new RowAnswer(r.Keys, FigureAnswer.Of(r.Figures, workspace.Currency)))],
                FigureAnswer.Of(read.Total, workspace.Currency),
                read.Days,
                request.ByMonth ? "month" : "day",
                [.. read.RevenueElsewhere.Select(r => Money.Of(r.Value, r.Key))],
                read.Total.VisitsWithId < read.Total.Visits,
                read.Total.Visits == 0 ? null : (decimal)read.Total.VisitsWithId / read.Total.Visits,
                read.Lost
            )
        );
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
        string[]? where = null
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

    private static Outcome<ArrivalsRequest> RequestOf(
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

        var dimensions = rows.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(Parse).ToList();
        var conditions = (where ?? [])
            .Select(w => (Dimension: Parse(w.Split(':', 2)[0]), Value: w.Split(':', 2) is [_, { Length: > 0 } value] ? value : null))
            .ToList();
        if (dimensions.Count > MostLevels || dimensions.Contains(null) || conditions.Any(c => c.Dimension is null))
        {
            return Refusal.Invalid(
                "rows-refused",
                $"Rows are up to {MostLevels} of {string.Join(", ", Enum.GetNames<Dimension>().Select(n => n.ToLowerInvariant()))}, separated by commas."
            );
        }

        return new ArrivalsRequest(
            workspace.Id,
            workspace.Currency,
            first,
            last,
            [.. dimensions.Select(d => d!.Value)],
            [.. conditions.Select(c => (c.Dimension!.Value, c.Value))]
        );
    }

    private static Dimension? Parse(string name) =>
        Enum.TryParse<Dimension>(name, ignoreCase: true, out var dimension) && Enum.IsDefined(dimension) && !name.All(char.IsDigit)
            ? dimension
            : null;
}
