using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Costs;

/// <summary>Keeps what placements and links cost from which day on. What earlier days cost changes only for who says so.</summary>
public sealed class CostRateStore(
    BeaconDb db,
    LinkCostReader costs,
    ConventionReader conventions,
    WorkspaceReader workspaces,
    AuditLog auditLog
)
{
    /// <summary>The rates of a link, and those of its placement, which hold where it has none of its own.</summary>
    public async Task<Outcome<LinkRatesAnswer>> OfLinkAsync(Guid id, CancellationToken cancel) =>
        await db
            .Links.AsNoTracking()
            .Where(l => l.Id == id)
            .Select(l => new { l.Rates, Placement = l.Placement!.Rates })
            .SingleOrDefaultAsync(cancel)
            is { } found
            ? new LinkRatesAnswer(CostRates.InOrder(CostRates.Parse(found.Rates)), CostRates.InOrder(CostRates.Parse(found.Placement)))
            : Refusal.NotFound("link");

    /// <summary>Gives a placement other rates.</summary>
    public async Task<Outcome<CostRatesAnswer>> SavePlacementAsync(Guid id, CostRatesRequest request, bool dry, CancellationToken cancel)
    {
        if (await db.Placements.SingleOrDefaultAsync(p => p.Id == id, cancel) is not { } placement)
        {
            return Refusal.NotFound("placement");
        }

        return await SaveAsync(
            "placement",
            id,
            $"“{placement.Name}”",
            placement.Rates,
            request,
            dry,
            written =>
            {
                placement.Rates = written;
                placement.Revision++;
            },
            cancel
        );
    }

    /// <summary>Gives a link other rates than its placement.</summary>
    public async Task<Outcome<CostRatesAnswer>> SaveLinkAsync(Guid id, CostRatesRequest request, bool dry, CancellationToken cancel)
    {
        if (await db.Links.SingleOrDefaultAsync(l => l.Id == id, cancel) is not { } link)
        {
            return Refusal.NotFound("link");
        }

        return await SaveAsync("link-rates", id, "the link", link.Rates, request, dry, written => link.Rates = written, cancel);
    }

    private async Task<Outcome<CostRatesAnswer>> SaveAsync(
        string what,
        Guid id,
        string called,
        string? stored,
        CostRatesRequest request,
        bool dry,
        Action<string?> write,
        CancellationToken cancel
    )
    {
        var before = CostRates.InOrder(CostRates.Parse(stored));
        if (request.Rates is not { } given || given.Contains(null) || request.Seen?.Any(r => r is null) == true)
        {
            return Refusal.Invalid(
                "rates-refused",
                "Send “rates”, and “seen” where it is given, as lists of objects with “from”, “basis” and “amount”."
            );
        }

        var after = CostRates.InOrder(given.OfType<CostRate>());
        if (CostRates.WhyWrong(after) is { } why)
        {
            return Refusal.Invalid("rates-refused", why);
        }

        if (request.Seen is { } seen && !CostRates.InOrder(seen).SequenceEqual(before))
        {
            return Refusal.ChangedBy(await auditLog.LastAsync(id, cancel), $"The rates of {called}", new CostRatesAnswer(before, null));
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var today = workspaces.TodayIn(workspace);
        RateCorrection? correction = null;
        if (CostRates.FirstDifference(before, after) is { } first && first < today)
        {
            var (was, now) = await costs.CompareAsync(
                workspace.Id,
                workspace.Currency,
                (first, today.AddDays(-1)),
                today,
                id,
                after,
                await conventions.ReadAsync(cancel),
                cancel
            );
            correction =
                was == now
                    ? null
                    : new RateCorrection(
                        first == DateOnly.MinValue ? null : first,
                        Money.Of(was, workspace.Currency),
                        Money.Of(now, workspace.Currency)
                    );
        }

        if (dry)
        {
            return new CostRatesAnswer(after, correction);
        }

        if (correction is not null && !request.CorrectsPast)
        {
            string since = correction.From is { } day ? $"since {day:yyyy-MM-dd}" : "so far";
            return Refusal.Conflict(
                "past-cost",
                $"This changes what earlier days cost: {correction.After.Amount} {workspace.Currency} instead of {correction.Before.Amount} in all {since}. Confirm it to correct the past, or let the rate begin today."
            );
        }

        write(CostRates.Write(after));
        auditLog.Add(what, id, new { rates = before }, new { rates = after, correction });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            return Refusal.ChangedBy(await auditLog.LastAsync(id, cancel), called, new CostRatesAnswer(before, null));
        }

        return new CostRatesAnswer(after, correction);
    }
}

/// <summary>Rates as somebody writes them.</summary>
/// <param name="Rates">All rates, in any order; those left out are gone.</param>
/// <param name="Seen">The rates as they were read; others meanwhile are not overwritten. Null to overwrite.</param>
/// <param name="CorrectsPast">Also changes what days before today cost.</param>
public sealed record CostRatesRequest(IReadOnlyList<CostRate?>? Rates, IReadOnlyList<CostRate>? Seen = null, bool CorrectsPast = false);

/// <summary>The rates as they are.</summary>
/// <param name="Rates">In order, spans last.</param>
/// <param name="Correction">What days before today cost now, and would; null where that stays the same.</param>
public sealed record CostRatesAnswer(IReadOnlyList<CostRate> Rates, RateCorrection? Correction);

/// <summary>What earlier days cost before and after.</summary>
/// <param name="From">The first of these days; null for all there were.</param>
/// <param name="Before">What all links of the workspace cost on them by the old rates.</param>
/// <param name="After">The same by the new ones.</param>
public sealed record RateCorrection(DateOnly? From, Money Before, Money After);

/// <summary>The rates of a link.</summary>
/// <param name="Rates">Its own.</param>
/// <param name="OfPlacement">Its placement's, which hold where it has none of its own.</param>
public sealed record LinkRatesAnswer(IReadOnlyList<CostRate> Rates, IReadOnlyList<CostRate> OfPlacement);
