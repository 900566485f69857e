using System.Data;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Costs;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads what single links cost so far, by the same reader as Arrivals.</summary>
public sealed class LinkCostReader(NpgsqlDataSource database, VisitSegments segments, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    private readonly CostReader _costs = new(database, segments, sources);

    /// <summary>What each link cost up to and with today, not rounded; links that cost nothing are left out.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="currency">Its currency.</param>
    /// <param name="links">The links.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public Task<IReadOnlyDictionary<Guid, decimal>> ReadAsync(
        Guid workspaceId,
        string currency,
        IReadOnlyCollection<Guid> links,
        DateOnly today,
        Convention convention,
        CancellationToken cancel
    ) =>
        ByLinkAsync(
            new CostRequest(workspaceId, currency, DateOnly.MinValue, DateOnly.MaxValue, today, IsByLink: true) { Links = links },
            convention,
            cancel
        );

    /// <summary>What everything cost in a range, and what it would have cost by other rates of a placement or a link.</summary>
    public async Task<(decimal Before, decimal After)> CompareAsync(
        Guid workspaceId,
        string currency,
        (DateOnly From, DateOnly To) range,
        DateOnly today,
        Guid of,
        IReadOnlyList<CostRate> rates,
        Convention convention,
        CancellationToken cancel
    )
    {
        var request = new CostRequest(workspaceId, currency, range.From, range.To, today);
        return (
            await SumAsync(request, convention, cancel),
            await SumAsync(request with { Instead = new RatesInstead(of, rates) }, convention, cancel)
        );
    }

    private async Task<decimal> SumAsync(CostRequest request, Convention convention, CancellationToken cancel) =>
        (await CostsAsync(request, convention, cancel)).Costs.Where(c => c.Currency is null).Sum(c => c.Amount);

    private async Task<IReadOnlyDictionary<Guid, decimal>> ByLinkAsync(
        CostRequest request,
        Convention convention,
        CancellationToken cancel
    ) =>
        (await CostsAsync(request, convention, cancel))
            .Costs.Where(c => c.Currency is null && c.Covered.Only is not null)
            .GroupBy(c => c.Covered.Only!.Id)
            .ToDictionary(g => g.Key, g => g.Sum(c => c.Amount));

    private async Task<LinkCosts> CostsAsync(CostRequest request, Convention convention, CancellationToken cancel)
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        return await _costs.ReadAsync(connection, request, convention, plan, cancel);
    }
}
