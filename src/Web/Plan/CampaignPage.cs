using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Gathers everything about one campaign.</summary>
public sealed class CampaignPage(
    BeaconDb db,
    CampaignStore campaigns,
    PlannedLinks planned,
    CampaignBudgets budgets,
    CampaignResultsReader results,
    ConventionReader conventions,
    WorkspaceReader workspaces
)
{
    /// <summary>What costs of the campaign as a whole are called, which no placement has.</summary>
    private const string NotBrokenDown = "not broken down";

    /// <summary>The campaign; null when the workspace has none of that id.</summary>
    public async Task<CampaignDetail?> ReadAsync(Guid id, CancellationToken cancel)
    {
        if (await campaigns.OneAsync(id, cancel) is not { } campaign)
        {
            return null;
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var today = workspaces.TodayIn(workspace);
        var dates = new CampaignDates(campaign.StartsOn, campaign.EndsOn);
        var others = await db
            .Campaigns.AsNoTracking()
            .Where(c => c.Id != id && c.ArchivedAt == null && c.StartsOn != null)
            .OrderBy(c => c.StartsOn)
            .ToListAsync(cancel);
        var placements = (await db.Placements.AsNoTracking().ToListAsync(cancel)).ToDictionary(p => p.Id);
        var read = await results.ReadAsync(
            workspace.Id,
            workspace.Currency,
            id,
            campaign.Value,
            today,
            await conventions.ReadAsync(cancel),
            cancel
        );
        var rows = read.Select(r =>
                (
                    Name: r.IsBrokenDown ? PlacementOf(r.PlacementId)?.Name : NotBrokenDown,
                    r.Links,
                    Figures: r.Figures with
                    {
                        Clicks = r.Clicks,
                    }
                )
            )
            .ToList();
        var total = rows.Aggregate(Figures.Zero, (sum, row) => sum.With(row.Figures));
        return new CampaignDetail(
            campaign,
            await planned.ListAsync(id, cancel),
            [
                .. others
                    .Where(o => campaign.StartsOn is not null && dates.Overlaps(new CampaignDates(o.StartsOn, o.EndsOn)))
                    .Select(o => o.Name),
            ],
            [.. rows.Select(r => ResultOf(r.Name, r.Links, r.Figures, workspace.Currency))],
            ResultOf(null, rows.Sum(r => r.Links), total, workspace.Currency),
            campaign.Budget is { } budget
                ? BudgetAnswer.Of(await budgets.OfAsync(id, budget, dates, total.Cost ?? 0, today, cancel), workspace.Currency)
                : null
        );

        Placement? PlacementOf(Guid? placementId) => placementId is { } known ? placements.GetValueOrDefault(known) : null;
    }

    private static PlacementResult ResultOf(string? placement, int links, Figures figures, string currency) =>
        new(
            placement,
            links,
            figures.Clicks,
            figures.Visits,
            (long)figures.Conversions,
            figures.ConversionRate,
            Money.Of(figures.Revenue, currency),
            figures.Cost is { } cost ? Money.Of(cost, currency) : null,
            figures.Profit is { } profit ? Money.Of(profit, currency) : null,
            FigureAnswer.Of(figures, currency, withVisitors: false, withClicks: true)
        );
}
