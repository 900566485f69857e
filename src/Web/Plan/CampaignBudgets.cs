using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Budgets of campaigns beside what they cost, by the same costs as Arrivals.</summary>
public sealed class CampaignBudgets(BeaconDb db, ArrivalsReader arrivals, ConventionReader conventions, WorkspaceReader workspaces)
{
    /// <summary>The budgets of all campaigns that have one and are not archived.</summary>
    public async Task<List<CampaignBudgetAnswer>> ListAsync(CancellationToken cancel)
    {
        var campaigns = await db.Campaigns.AsNoTracking().Where(c => c.ArchivedAt == null && c.Budget != null).ToListAsync(cancel);
        if (campaigns.Count == 0)
        {
            return [];
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var today = workspaces.TodayIn(workspace);
        var read = await arrivals.ReadAsync(
            new ArrivalsRequest(
                workspace.Id,
                workspace.Currency,
                DateOnly.MinValue,
                DateOnly.MaxValue,
                [new RowField(RowKind.Campaign)],
                [],
                WithVisitors: false
            )
            {
                WithCosts = true,
                Today = today,
            },
            await conventions.ReadAsync(cancel),
            cancel
        );
        var costs = read.Rows.Where(r => r.Keys[0] is not null).ToDictionary(r => r.Keys[0]!, r => r.Figures.Cost, StringComparer.Ordinal);
        var fixedCosts = await FixedAsync(null, cancel);
        return campaigns.ConvertAll(c => new CampaignBudgetAnswer(
            c.Id,
            BudgetAnswer.Of(
                Of(
                    c.Budget!.Value,
                    new CampaignDates(c.StartsOn, c.EndsOn),
                    costs.GetValueOrDefault(c.Value) ?? 0,
                    [.. fixedCosts[c.Id]],
                    today
                ),
                workspace.Currency
            )
        ));
    }

    /// <summary>The budget of one campaign.</summary>
    /// <param name="id">The campaign.</param>
    /// <param name="budget">Its budget.</param>
    /// <param name="dates">Its days.</param>
    /// <param name="spent">What it cost so far.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<CampaignBudget> OfAsync(
        Guid id,
        decimal budget,
        CampaignDates dates,
        decimal spent,
        DateOnly today,
        CancellationToken cancel
    ) => Of(budget, dates, spent, [.. (await FixedAsync(id, cancel))[id]], today);

    private static CampaignBudget Of(decimal budget, CampaignDates dates, decimal spent, IReadOnlyList<decimal> fixedCosts, DateOnly today)
    {
        decimal soFar = fixedCosts.Sum(f =>
            FixedCosts.Between(f, dates.Starts, dates.Ends, due: DateOnly.MinValue, DateOnly.MinValue, today, today)
        );
        return CampaignBudget.Of(budget, Math.Max(0, spent - soFar), Math.Min(spent, soFar), fixedCosts.Sum(), dates, today);
    }

    /// <summary>What placements cost whole campaigns that have a link there; of one campaign, or of all.</summary>
    private async Task<ILookup<Guid, decimal>> FixedAsync(Guid? campaign, CancellationToken cancel) =>
        (
            await db
                .Links.Where(l => l.CampaignId != null && l.Placement!.FixedCost != null && (campaign == null || l.CampaignId == campaign))
                .Select(l => new
                {
                    l.CampaignId,
                    l.PlacementId,
                    l.Placement!.FixedCost,
                })
                .Distinct()
                .ToListAsync(cancel)
        ).ToLookup(f => f.CampaignId!.Value, f => f.FixedCost!.Value);
}

/// <summary>The budget of a campaign.</summary>
/// <param name="Campaign">Its id.</param>
/// <param name="Budget">Its budget beside what it cost.</param>
public sealed record CampaignBudgetAnswer(Guid Campaign, BudgetAnswer Budget);
