using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

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
                .Select(g => new ImportedCost(g.Key.Target, g.Key.Day, g.Sum(c => c.Amount))),
        ];
        var (links, called) = await LinksAsync(connection, request, [.. targets.Values], cancel);
        return new Imports(
            new ImportedCosts(targets, costs, links.Keys),
            links,
            called,
            [
                .. others
                    .GroupBy(o => (o.Currency, Target: same[o.Cost.Target], o.Cost.Day))
                    .Select(g => (g.Key.Currency, new ImportedCost(g.Key.Target, g.Key.Day, g.Sum(o => o.Cost.Amount)))),
            ],
            targets
        );
    }

    private static async Task<(List<ImportedCost> Own, List<(string Currency, ImportedCost Cost)> Others)> CostsAsync(
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
        var own = new List<ImportedCost>();
        var others = new List<(string, ImportedCost)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var cost = new ImportedCost(reader.GetInt32(0), reader.GetFieldValue<DateOnly>(1), reader.GetDecimal(3));
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

    /// <summary>The links that belong to one of the targets, or only those asked for.</summary>
    private static async Task<(Dictionary<CoverableLink, ClickedLink> Links, Dictionary<Guid, LinkOfVisit> Called)> LinksAsync(
        NpgsqlConnection connection,
        CostRequest request,
        List<ImportTarget> targets,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand { Connection = connection };
        string Parameter(object value)
        {
            command.Parameters.Add(new() { Value = value });
            return $"${command.Parameters.Count}";
        }

        string workspace = Parameter(request.WorkspaceId);
        List<string> belongs =
        [
            $"id = any({Parameter(targets.Select(t => t.LinkId).OfType<Guid>().ToArray())})",
            $"campaign_id = any({Parameter(targets.Select(t => t.CampaignId).OfType<Guid>().ToArray())})",
            $"placement_id = any({Parameter(targets.Select(t => t.PlacementId).OfType<Guid>().ToArray())})",
            .. targets
                .Where(t => t is { LinkId: null, CampaignId: null, PlacementId: null })
                .SelectMany(t => t.Values)
                .GroupBy(v => v.Key, v => v.Value)
                .Select(g => $"values ->> {Parameter(g.Key)} = any({Parameter(g.Distinct().ToArray())})"),
        ];
        command.CommandText =
            $"select id, coalesce(title, url), campaign_id, placement_id, page, values from links where workspace_id = {workspace} and ({string.Join(" or ", belongs)})"
            + (request.Links is { } only ? $" and id = any({Parameter(only.ToArray())})" : "");
        var links = new Dictionary<CoverableLink, ClickedLink>(ReferenceEqualityComparer.Instance);
        var called = new Dictionary<Guid, LinkOfVisit>();
        var read = new Dictionary<string, (Dictionary<string, string> Values, RawTags Tags)>(StringComparer.Ordinal);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (!read.TryGetValue(reader.GetString(5), out var said))
            {
                var values = LinkRow.ValuesOf(reader);
                read[reader.GetString(5)] = said = (values, RawTags.Of(values));
            }

            var link = LinkRow.CalledOf(reader);
            called[link.Id] = link;
            links[new CoverableLink(link.Id, link.CampaignId, link.PlacementId, said.Values)] = new ClickedLink(
                link.Id,
                said.Tags,
                reader.GetString(4)
            );
        }

        return (links, called);
    }
}

/// <summary>Imported costs, with the links they cover.</summary>
/// <param name="Costs">Those in the workspace's currency.</param>
/// <param name="Links">What each link they cover says.</param>
/// <param name="Called">What these are called.</param>
/// <param name="Others">Those in other currencies, which replace nothing.</param>
/// <param name="Targets">What all of them belong to.</param>
internal sealed record Imports(
    ImportedCosts Costs,
    IReadOnlyDictionary<CoverableLink, ClickedLink> Links,
    IReadOnlyDictionary<Guid, LinkOfVisit> Called,
    IReadOnlyList<(string Currency, ImportedCost Cost)> Others,
    IReadOnlyDictionary<int, ImportTarget> Targets
)
{
    public static readonly Imports None = new(
        new ImportedCosts(new Dictionary<int, ImportTarget>(), [], []),
        new Dictionary<CoverableLink, ClickedLink>(),
        new Dictionary<Guid, LinkOfVisit>(),
        [],
        new Dictionary<int, ImportTarget>()
    );

    public bool IsEmpty => Costs.IsEmpty && Others.Count == 0;

    /// <summary>Adds them; where only some links are asked for, only costs of single links among them.</summary>
    public void AddTo(FoundCosts found, CostRequest request)
    {
        Add(Costs, null);
        foreach (var ofCurrency in Others.GroupBy(o => o.Currency, o => o.Cost))
        {
            Add(new ImportedCosts(Targets, [.. ofCurrency], Links.Keys), ofCurrency.Key);
        }

        void Add(ImportedCosts costs, string? currency)
        {
            var rests = request.IsByDay
                ? costs.Rests().Select(r => (r.Target, Day: (DateOnly?)r.Day, r.Amount))
                : costs.Rests().GroupBy(r => r.Target).Select(g => (Target: g.Key, Day: (DateOnly?)null, Amount: g.Sum(r => r.Amount)));
            foreach (var ofTarget in rests.GroupBy(r => r.Target))
            {
                var target = costs.TargetOf(ofTarget.Key);
                var links = costs.LinksOf(ofTarget.Key);
                if (request.Links is not null && (target.LinkId is null || links.Count == 0))
                {
                    continue;
                }

                var covered =
                    links.Count == 0 ? null
                    : target.LinkId is not null ? new CoveredLinks(Links[links[0]])
                    : new CoveredLinks([
                        .. links.DistinctBy(l => (l.Values, Links[l].Page, l.CampaignId, l.PlacementId)).Select(l => Links[l]),
                    ]);
                foreach (var link in covered?.Links ?? [])
                {
                    found.Called.TryAdd(link.Id, Called[link.Id]);
                }

                foreach (var (_, day, amount) in ofTarget)
                {
                    if (covered is null)
                    {
                        found.AddNamed(target, day, amount, currency);
                    }
                    else
                    {
                        found.Add(covered, day, amount, currency);
                    }
                }
            }
        }
    }
}
