using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Addresses;

/// <summary>The workspace's measured sites, and what their pages may report.</summary>
public static class SiteEndpoints
{
    private const decimal MostOfAll = 1_000_000_000m;

    public static void MapSites(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/sites").WithTags("Sites");
        group.MapGet("", ListAsync).WithName("ListSites").WithSummary("Lists the workspace's sites.").For(Caller.Readers);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeSite").WithSummary("Changes a site.").For(Caller.Owner);
    }

    private static async Task<Ok<List<MeasuredSiteAnswer>>> ListAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await db
                .Sites.AsNoTracking()
                .OrderBy(s => s.Name)
                .Select(s => new MeasuredSiteAnswer(
                    s.Id,
                    s.Name,
                    s.MeasuringKey,
                    s.Hosts.OrderBy(h => h.Host).Select(h => h.Host).ToList(),
                    s.LargestValue
                ))
                .ToListAsync(cancel)
        );

    private static async Task<Refusal?> ChangeAsync(Guid id, SiteChange change, BeaconDb db, AuditLog auditLog, CancellationToken cancel)
    {
        if (change.LargestValue is not { } most || most <= 0 || most > MostOfAll || decimal.Round(most, 2) != most)
        {
            return Refusal.Invalid(
                "site-limit",
                $"The largest value of a conversion is a number over 0 and up to {MostOfAll.ToString("N0", CultureInfo.InvariantCulture)}, with two decimals at most."
            );
        }

        if (await db.Sites.SingleOrDefaultAsync(s => s.Id == id, cancel) is not { } site)
        {
            return Refusal.NotFound("site");
        }

        auditLog.Add("site", id, new { site.LargestValue }, new { LargestValue = most });
        site.LargestValue = most;
        await db.SaveChangesAsync(cancel);
        return null;
    }
}

/// <summary>A measured site.</summary>
/// <param name="MeasuringKey">What its pages say in every report; anybody can read it there.</param>
/// <param name="Hosts">Its hosts, with their ports where they have one.</param>
/// <param name="LargestValue">Most a conversion its pages report may be worth, in the conversion's currency.</param>
public sealed record MeasuredSiteAnswer(Guid Id, string Name, string MeasuringKey, IReadOnlyList<string> Hosts, decimal LargestValue);

/// <summary>A change of a site.</summary>
/// <param name="LargestValue">Most a conversion its pages report may be worth.</param>
public sealed record SiteChange(decimal? LargestValue);
