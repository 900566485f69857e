using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>The visits that led to conversions, one after another.</summary>
public static class PathEndpoints
{
    private const int MostOnPage = 500;

    public static void MapPaths(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/arrivals/paths", ReadAsync)
            .WithName("ReadPaths")
            .WithSummary("Reports the paths people took to their conversions.")
            .WithTags("Arrivals")
            .For(Caller.Readers);

    private static async Task<Outcome<PathsAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        PathReader paths,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null,
        string by = "channel",
        int? creditDays = null,
        int page = 1,
        int size = 50
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from, to, by, where);
        if (request is null)
        {
            return refusal!;
        }

        if (request.Rows is not [{ Table: RowTable.Source, Kind: not RowKind.Site }])
        {
            return Refusal.Invalid("rows-refused", "Visits of a path are called by one of channel, campaign, source and the like.");
        }

        if (page is < 1 or > int.MaxValue / MostOnPage || size is < 1 or > MostOnPage)
        {
            return Refusal.Invalid("order-refused", $"A page of the list has 1 to {MostOnPage} paths.");
        }

        var (credit, badCredit) = CreditQuery.Read(new CreditRule(CreditModel.Last).ToString(), null, creditDays);
        if (badCredit is not null)
        {
            return badCredit;
        }

        var (read, plan) = await paths.ReadAsync(
            request with
            {
                Credit = credit,
                WithVisitors = false,
            },
            await conventions.ReadAsync(cancel),
            cancel
        );
        List<PathAnswer> shown =
        [
            .. read.Skip((page - 1) * size)
                .Take(size)
                .Select(p => new PathAnswer(p.Steps, p.IsCut, p.Conversions, Money.Of(p.Revenue, workspace.Currency))),
        ];
        var keys = shown.SelectMany(p => p.Steps).OfType<string>().ToHashSet(StringComparer.Ordinal);
        return new PathsAnswer(
            request.From,
            request.To,
            shown,
            read.Count,
            read.Sum(p => p.Conversions),
            ArrivalsReport
                .NamesOf(request.Rows, plan, [])
                .Values.SelectMany(n => n)
                .Where(n => keys.Contains(n.Key))
                .OrderBy(n => n.Key, StringComparer.Ordinal)
                .ToDictionary()
        );
    }
}

/// <summary>Paths to conversions.</summary>
/// <param name="From">First day of the conversions, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Paths">One page of them, the commonest first.</param>
/// <param name="Found">How many different paths there are in all.</param>
/// <param name="Conversions">How many conversions came by all of them together.</param>
/// <param name="Names">What steps are called where they are ids or written values.</param>
public sealed record PathsAnswer(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<PathAnswer> Paths,
    int Found,
    long Conversions,
    IReadOnlyDictionary<string, string> Names
);

/// <summary>A path.</summary>
/// <param name="Steps">Its latest visits, at most five, the converting one last; null for a visit without such a value.</param>
/// <param name="IsCut">There were visits before the first step.</param>
/// <param name="Conversions">How many came this way.</param>
/// <param name="Revenue">Their value.</param>
public sealed record PathAnswer(IReadOnlyList<string?> Steps, bool IsCut, long Conversions, Money Revenue);
