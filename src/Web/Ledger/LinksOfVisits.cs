using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Arrivals;

namespace PreciseBeacon.Web.Ledger;

/// <summary>The links that visits of a report came by, as a selection in the Ledger.</summary>
public sealed class LinksOfVisits(BeaconDb db, ConventionReader conventions, ArrivalsReader arrivals, TimeProvider clock)
{
    /// <summary>Narrows a query to the links behind the visits it names; as it is where it names none.</summary>
    /// <returns>The query; refused where its range or conditions can't be read.</returns>
    public async Task<Outcome<LedgerQuery>> NarrowAsync(LedgerQuery query, CancellationToken cancel)
    {
        if (query.VisitsFrom is null && query.VisitsTo is null && query.VisitsWhere is not { Length: > 0 })
        {
            return query;
        }

        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, query.VisitsFrom, query.VisitsTo, "", query.VisitsWhere);
        if (request is null)
        {
            return refusal!;
        }

        var found = await arrivals.LinksAsync(request, await conventions.ReadAsync(cancel), LedgerQuery.Many, cancel);
        return query with { Among = [.. found.Select(f => f.LinkId)] };
    }
}
