using Npgsql;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads what placements and links are paid by.</summary>
internal static class PriceReader
{
    public static async Task<Prices> ReadAsync(NpgsqlConnection connection, CostRequest request, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select id, rates, fixed_cost, true from placements where workspace_id = $1 and (rates is not null or fixed_cost is not null or id = $2)
            union all
            select id, rates, null, false from links where workspace_id = $1 and rates is not null
            union all
            select id, null, null, false from links where workspace_id = $1 and rates is null and id = $2
            """,
            connection
        );
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        command.Parameters.Add(new() { Value = request.Instead?.Of ?? Guid.Empty });
        var rated = new Dictionary<Guid, IReadOnlyList<CostRate>>();
        var ofLinks = new Dictionary<Guid, IReadOnlyList<CostRate>>();
        var wholeCampaign = new Dictionary<Guid, decimal>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var id = reader.GetGuid(0);
            var rates =
                id == request.Instead?.Of ? request.Instead.Rates
                : reader.IsDBNull(1) ? []
                : CostRates.Parse(reader.GetString(1));
            if (rates.Count > 0)
            {
                (reader.GetBoolean(3) ? rated : ofLinks)[id] = rates;
            }

            if (!reader.IsDBNull(2))
            {
                wholeCampaign[id] = reader.GetDecimal(2);
            }
        }

        return new Prices(rated, ofLinks, wholeCampaign);
    }
}

/// <summary>What placements and links are paid by.</summary>
/// <param name="Rated">Rates of placements.</param>
/// <param name="OfLinks">Rates of links of their own.</param>
/// <param name="OfCampaigns">What placements are paid for a whole campaign.</param>
internal sealed record Prices(
    IReadOnlyDictionary<Guid, IReadOnlyList<CostRate>> Rated,
    IReadOnlyDictionary<Guid, IReadOnlyList<CostRate>> OfLinks,
    IReadOnlyDictionary<Guid, decimal> OfCampaigns
)
{
    public bool IsEmpty => Rated.Count + OfLinks.Count + OfCampaigns.Count == 0;

    /// <summary>True where something is paid that no use is counted for.</summary>
    public bool HasFixed => OfCampaigns.Count > 0 || Rated.Values.Concat(OfLinks.Values).Any(r => r.Any(o => o.Basis == CostBasis.Span));

    /// <summary>True where something is paid for being shown, which only other systems count.</summary>
    public bool HasShown => Rated.Values.Concat(OfLinks.Values).Any(r => r.Any(o => o.Basis == CostBasis.Shown));

    /// <summary>Rates of a link of its own.</summary>
    public IReadOnlyList<CostRate> OfLink(Guid id) => OfLinks.GetValueOrDefault(id) ?? [];

    /// <summary>Rates of a placement.</summary>
    public IReadOnlyList<CostRate> OfPlacement(Guid id) => Rated.GetValueOrDefault(id) ?? [];

    /// <summary>The rate of a link on a day.</summary>
    public CostRate? HoldingOn(LinkOfVisit link, DateOnly day) =>
        CostRates.HoldingOn(OfLink(link.Id), link.PlacementId is { } placement ? OfPlacement(placement) : [], day);
}
