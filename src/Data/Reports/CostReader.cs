using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads what the links of paid placements cost over a range (rules, section 7).</summary>
internal static class CostReader
{
    /// <summary>The placements that cost anything.</summary>
    public static async Task<IReadOnlyDictionary<Guid, PlacementPrice>> PricesAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            "select id, cost_per_click, fixed_cost from placements where workspace_id = $1 and (cost_per_click is not null or fixed_cost is not null)",
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        var prices = new Dictionary<Guid, PlacementPrice>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            prices[reader.GetGuid(0)] = new PlacementPrice(
                reader.IsDBNull(1) ? null : reader.GetDecimal(1),
                reader.IsDBNull(2) ? null : reader.GetDecimal(2)
            );
        }

        return prices;
    }

    /// <summary>What clicks cost: those on links of placements that are paid by the click.</summary>
    public static IEnumerable<LinkCost> OfClicks(
        IEnumerable<CountedClicks> clicks,
        PlanOfVisits plan,
        IReadOnlyDictionary<Guid, PlacementPrice> prices
    ) =>
        from some in clicks
        let placement = plan.LinkOf(some.Link.Id)?.PlacementId
        where placement is not null
        let price = prices.GetValueOrDefault(placement.Value)?.PerClick
        where price is not null
        select new LinkCost(some.Link, some.Scanned, some.Day, Figures.CostOfClicks(price.Value, some.Clicks));

    /// <summary>Links without a short link in placements that are paid by the click: their visits are what is paid for.</summary>
    public static async Task<List<(ClickedLink Link, LinkOfVisit Called)>> UnshortenedAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyDictionary<Guid, PlacementPrice> prices,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select l.id, coalesce(l.title, l.url), l.campaign_id, l.placement_id, l.page, l.values
            from (select distinct link_id from traffic_source where workspace_id = $1 and link_id is not null) t
            join links l on l.id = t.link_id and l.placement_id = any($2)
            where not exists (select from short_links s where s.link_id = l.id)
            """,
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = prices.Where(p => p.Value.PerClick is not null).Select(p => p.Key).ToArray() });
        var links = new List<(ClickedLink, LinkOfVisit)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            links.Add((LinkOf(reader, tags: 5, page: 4), CalledOf(reader)));
        }

        return links;
    }

    /// <summary>
    /// Fixed costs of campaigns in their placements, in equal parts to the links they have there. A campaign without days of its own is paid
    /// on the day its first link there was made. Links that say the same stand together, unless rows are made by link.
    /// </summary>
    public static async Task<(List<LinkCost> Costs, List<LinkOfVisit> Links)> FixedAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        IReadOnlyDictionary<Guid, PlacementPrice> prices,
        CancellationToken cancel
    )
    {
        var fields = request.Rows.Concat(request.Where.Select(w => w.Field)).ToList();
        bool byLink = fields.Exists(f => f.Kind == RowKind.Link);
        bool byDay = fields.Exists(f => f.Table == RowTable.Day);
        await using var command = new NpgsqlCommand(
            $"""
            select {(
                byLink ? "l.id" : "min(l.id::text)::uuid"
            )}, coalesce(min(l.title), min(l.url)), l.campaign_id, l.placement_id, l.page, l.values, count(*),
                sum(count(*)) over (partition by l.campaign_id, l.placement_id)::bigint,
                c.starts_on, c.ends_on,
                (min(min(l.created_at)) over (partition by l.campaign_id, l.placement_id) at time zone w.time_zone)::date
            from links l join campaigns c on c.id = l.campaign_id join workspaces w on w.id = l.workspace_id
            where l.workspace_id = $1 and l.placement_id = any($2)
            group by l.campaign_id, l.placement_id, l.page, l.values, c.starts_on, c.ends_on, w.time_zone{(byLink ? ", l.id" : "")}
            """,
            connection
        );
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        command.Parameters.Add(new() { Value = prices.Where(p => p.Value.Fixed is not null).Select(p => p.Key).ToArray() });
        var costs = new List<LinkCost>();
        var called = new List<LinkOfVisit>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var link = LinkOf(reader, tags: 5, page: 4);
            decimal part = prices[reader.GetGuid(3)].Fixed!.Value * reader.GetInt64(6) / reader.GetInt64(7);
            DateOnly? starts = reader.IsDBNull(8) ? null : reader.GetFieldValue<DateOnly>(8),
                ends = reader.IsDBNull(9) ? null : reader.GetFieldValue<DateOnly>(9);
            var due = reader.GetFieldValue<DateOnly>(10);
            foreach (var (day, from, to) in byDay ? Days(request.From, request.To) : [(null, request.From, request.To)])
            {
                decimal amount = PlacementCost.FixedBetween(part, starts, ends, due, from, to, request.Today);
                if (amount != 0)
                {
                    costs.Add(new LinkCost(link, Scanned: false, day, amount));
                }
            }

            called.Add(CalledOf(reader));
        }

        return (costs, called);
    }

    private static IEnumerable<(DateOnly? Day, DateOnly From, DateOnly To)> Days(DateOnly from, DateOnly to)
    {
        for (var day = from; day <= to; day = day.AddDays(1))
        {
            yield return (day, day, day);
        }
    }

    private static ClickedLink LinkOf(NpgsqlDataReader reader, int tags, int page) =>
        new(
            reader.GetGuid(0),
            RawTags.Of(JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(tags)) ?? []),
            reader.GetString(page)
        );

    private static LinkOfVisit CalledOf(NpgsqlDataReader reader) =>
        new(
            reader.GetGuid(0),
            reader.GetString(1),
            reader.IsDBNull(2) ? null : reader.GetGuid(2),
            reader.IsDBNull(3) ? null : reader.GetGuid(3)
        );
}

/// <summary>What a placement costs.</summary>
/// <param name="PerClick">Money for each click; null for none.</param>
/// <param name="Fixed">Money for a whole campaign; null for none.</param>
internal sealed record PlacementPrice(decimal? PerClick, decimal? Fixed);
