using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>What was bought of a product.</summary>
/// <param name="Id">The shop's id of it; empty where it says none.</param>
/// <param name="Name">Its name; likewise.</param>
/// <param name="Category">Its category; likewise.</param>
/// <param name="Orders">In how many orders.</param>
/// <param name="Pieces">How many pieces.</param>
/// <param name="Value">What they brought in the workspace's currency, not rounded.</param>
/// <param name="AdvertisedPieces">Those of them bought in visits of a campaign that advertises the product.</param>
/// <param name="AdvertisedValue">What these brought.</param>
public sealed record ProductFigures(
    string Id,
    string Name,
    string Category,
    long Orders,
    long Pieces,
    decimal Value,
    long AdvertisedPieces,
    decimal AdvertisedValue
);

/// <summary>What products are ordered by, the most first.</summary>
public enum ProductOrder
{
    Value,
    Pieces,
    Orders,
    Advertised,
}

/// <summary>Adds up the items of single conversions, as far back as these are kept.</summary>
public sealed class ProductReader(NpgsqlDataSource database, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    /// <summary>Products bought in visits that fulfil the request's conditions; its rows are not looked at.</summary>
    /// <param name="request">The range and conditions.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="search">Only products with this in their id, name or category, whatever its case; empty for all.</param>
    /// <param name="order">What they are ordered by; products that are alike by their name.</param>
    /// <param name="skip">Leaves out so many.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>The products, all of them together, and how many there are.</returns>
    public async Task<(IReadOnlyList<ProductFigures> Products, ProductFigures Total, long Found)> ReadAsync(
        ArrivalsRequest request,
        Convention convention,
        string search,
        ProductOrder order,
        int skip,
        int most,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var maps = await new RowMapReader(database, sources).ReadAsync(request with { Rows = [] }, convention, plan, cancel);
        var advertised = await AdvertisedAsync(request.WorkspaceId, convention, plan, cancel);

        // An item's value is that of one piece. Grouped by nothing, the items are the row of all of them.
        await using var command = database.CreateCommand(
            $"""
            with v as (
                select v.id, v.source_id from visit v
                where v.workspace_id = $1 and v.day between $2 and $3
                    and v.started_at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'{VisitConditions.SqlOf(
                maps,
                9
            )}
            ), bought as (
                select c.id as in_order, coalesce(i.id, '') as id, coalesce(i.name, '') as name, coalesce(i.category, '') as category,
                    i.count as pieces, case when coalesce(c.currency, $4) = $4 then i.count * coalesce(i.value, 0) else 0 end as value,
                    coalesce(array[lower(i.id), lower(i.name), lower(i.category)] && ad.terms, false) as advertised
                from conversion c join v on v.id = c.visit_id
                left join (select a.source_id, array_agg(a.term) as terms from unnest($5, $6) as a(source_id, term) group by 1) ad
                    on ad.source_id = v.source_id
                cross join lateral jsonb_to_recordset(c.items) as i(id text, name text, category text, count int, value numeric)
                where c.workspace_id = $1 and c.day between $2 and $3 and c.at >= $2::timestamp - interval '1 day' and c.items is not null
                    and strpos(lower(concat_ws(' ', i.id, i.name, i.category)), lower($7)) > 0
            )
            select id, name, category, count(distinct in_order) as orders, sum(pieces)::bigint as pieces, sum(value) as value,
                coalesce(sum(pieces) filter (where advertised), 0)::bigint as advertised,
                coalesce(sum(value) filter (where advertised), 0), grouping(id) = 1, count(*) over () - 1
            from bought group by grouping sets ((id, name, category), ())
            order by grouping(id) desc, {ColumnOf(order)} desc, name, id, category limit $8
            """
        );
        object[] values =
        [
            request.WorkspaceId,
            request.From,
            request.To,
            request.Currency,
            advertised.Select(a => a.SourceId).ToArray(),
            advertised.Select(a => a.Term).ToArray(),
            search,
            skip + most + 1,
            .. VisitConditions.ValuesOf(maps),
        ];
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var products = new List<ProductFigures>();
        var total = new ProductFigures("", "", "", 0, 0, 0, 0, 0);
        long found = 0;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found = reader.GetInt64(9);
            bool isTotal = reader.GetBoolean(8);
            var figures = new ProductFigures(
                isTotal ? "" : reader.GetString(0),
                isTotal ? "" : reader.GetString(1),
                isTotal ? "" : reader.GetString(2),
                reader.GetInt64(3),
                reader.IsDBNull(4) ? 0 : reader.GetInt64(4),
                reader.IsDBNull(5) ? 0 : reader.GetDecimal(5),
                reader.GetInt64(6),
                reader.GetDecimal(7)
            );
            if (isTotal)
            {
                total = figures;
            }
            else
            {
                products.Add(figures);
            }
        }

        return ([.. products.Skip(skip)], total, found);
    }

    /// <summary>What the campaign of each traffic source advertises, in lower case.</summary>
    private async Task<List<(int SourceId, string Term)>> AdvertisedAsync(
        Guid workspaceId,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var terms = new Dictionary<string, string[]>(StringComparer.Ordinal);
        await using (
            var command = database.CreateCommand(
                "select value, advertises from campaigns where workspace_id = $1 and cardinality(advertises) > 0"
            )
        )
        {
            command.Parameters.Add(new() { Value = workspaceId });
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                terms[reader.GetString(0)] = [.. reader.GetFieldValue<string[]>(1).Select(t => t.ToLowerInvariant())];
            }
        }

        if (terms.Count == 0)
        {
            return [];
        }

        var campaign = new RowField(RowKind.Campaign);
        return
        [
            .. from source in await sources.ReadAsync(workspaceId, convention, plan, cancel)
            where source.KeyOf(campaign) is { } key && terms.ContainsKey(key)
            from term in terms[source.KeyOf(campaign)!]
            select (source.Source.Id, term),
        ];
    }

    private static string ColumnOf(ProductOrder order) =>
        order switch
        {
            ProductOrder.Pieces => "pieces",
            ProductOrder.Orders => "orders",
            ProductOrder.Advertised => "advertised",
            _ => "value",
        };
}
