using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads imported costs: of each day and target those of the newest import that was not undone.</summary>
internal static class ImportedCostReader
{
    public static async Task<Imports> ReadAsync(NpgsqlConnection connection, CostRequest request, CancellationToken cancel)
    {
        var (costs, others) = await CostsAsync(connection, request, cancel);
        if (costs.Count + others.Count == 0)
        {
            return Imports.None;
        }

        var targets = await TargetsAsync(
            connection,
            request.WorkspaceId,
            [.. costs.Select(c => c.Target), .. others.Select(c => c.Cost.Target)],
            cancel
        );

        // Placements can be merged, so that two targets become one: the first stands for both.
        var same = targets
            .GroupBy(t => t.Value.Key, StringComparer.Ordinal)
            .SelectMany(g => g.Select(t => (t.Key, First: g.Min(o => o.Key))))
            .ToDictionary(t => t.Key, t => t.First);
        costs =
        [
            .. costs
                .GroupBy(c => (Target: same[c.Target], c.Day))
                .Select(g => new ImportedAmount(g.Key.Target, g.Key.Day, g.Sum(c => c.Amount))),
        ];
        var links = await TargetLinks.ReadAsync(connection, request, targets.Values, cancel);
        return new Imports(
            new ImportedAmounts(targets, costs, links.Links.Keys),
            links,
            [
                .. others
                    .GroupBy(o => (o.Currency, Target: same[o.Cost.Target], o.Cost.Day))
                    .Select(g => (g.Key.Currency, new ImportedAmount(g.Key.Target, g.Key.Day, g.Sum(o => o.Cost.Amount)))),
            ],
            targets
        );
    }

    private static async Task<(List<ImportedAmount> Own, List<(string Currency, ImportedAmount Cost)> Others)> CostsAsync(
        NpgsqlConnection connection,
        CostRequest request,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select c.target_id, c.day, c.currency, c.amount
            from (
                select i.target_id, i.day, i.currency, i.amount, rank() over (partition by i.day, i.target_id order by m.number desc) as newest
                from imported_cost i join cost_import m on m.id = i.import_id and m.undone_at is null
                where i.workspace_id = $1 and i.day between $2 and $3
            ) c
            where c.newest = 1
            """,
            connection
        );
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        command.Parameters.Add(new() { Value = request.From });
        command.Parameters.Add(new() { Value = request.To });
        var own = new List<ImportedAmount>();
        var others = new List<(string, ImportedAmount)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var cost = new ImportedAmount(reader.GetInt32(0), reader.GetFieldValue<DateOnly>(1), reader.GetDecimal(3));
            if (reader.GetString(2) is var currency && currency == request.Currency)
            {
                own.Add(cost);
            }
            else
            {
                others.Add((currency, cost));
            }
        }

        return (own, others);
    }

    private static async Task<Dictionary<int, ImportTarget>> TargetsAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        HashSet<int> ids,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            "select id, link_id, campaign_id, placement_id, values from cost_target where workspace_id = $1 and id = any($2)",
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = ids.ToArray() });
        var targets = new Dictionary<int, ImportTarget>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            targets[reader.GetInt32(0)] = new ImportTarget(
                IdAt(1),
                IdAt(2),
                IdAt(3),
                JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(4)) ?? []
            );
        }

        return targets;

        Guid? IdAt(int column) => reader.IsDBNull(column) ? null : reader.GetGuid(column);
    }
}

/// <summary>Imported costs, with the links they cover.</summary>
/// <param name="Costs">Those in the workspace's currency.</param>
/// <param name="Links">The links they cover.</param>
/// <param name="Others">Those in other currencies, which replace nothing.</param>
/// <param name="Targets">What all of them belong to.</param>
internal sealed record Imports(
    ImportedAmounts Costs,
    TargetLinks Links,
    IReadOnlyList<(string Currency, ImportedAmount Cost)> Others,
    IReadOnlyDictionary<int, ImportTarget> Targets
)
{
    public static readonly Imports None = new(
        new ImportedAmounts(new Dictionary<int, ImportTarget>(), [], []),
        TargetLinks.None,
        [],
        new Dictionary<int, ImportTarget>()
    );

    public bool IsEmpty => Costs.IsEmpty && Others.Count == 0;

    /// <summary>Adds them; where only some links are asked for, only costs of single links among them.</summary>
    public void AddTo(FoundAmounts found, CostRequest request)
    {
        found.Add(Costs, Costs.Rests(), Links, request);
        foreach (var ofCurrency in Others.GroupBy(o => o.Currency, o => o.Cost))
        {
            var costs = new ImportedAmounts(Targets, [.. ofCurrency], Links.Links.Keys);
            found.Add(costs, costs.Rests(), Links, request, ofCurrency.Key);
        }
    }
}
