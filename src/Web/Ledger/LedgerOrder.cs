using System.Globalization;

namespace PreciseBeacon.Web.Ledger;

/// <summary>The orders of the Ledger that go by what was counted, which is not kept with the links.</summary>
internal static class LedgerOrder
{
    /// <summary>Links in the order of a figure: those without it come last either way, newer ones first among equals; as they are where it is none.</summary>
    public static List<LedgerRow> ByFigure(List<LedgerRow> rows, string? order)
    {
        if (FigureOf(order) is not { } of)
        {
            return rows;
        }

        var known = rows.Where(r => of(r) is not null);
        return
        [
            .. (order!.StartsWith('-') ? known.OrderByDescending(of) : known.OrderBy(of)).ThenByDescending(r => r.CreatedAt),
            .. rows.Where(r => of(r) is null),
        ];
    }

    /// <summary>The figure an order goes by; null where links are ordered by what is kept with them.</summary>
    public static Func<LedgerRow, decimal?>? FigureOf(string? order) =>
        order?.Trim().TrimStart('-') switch
        {
            "clicks" => r => r.Clicks,
            "scans" => r => r.Scans,
            "unique" => r => r.Unique,
            "visits" => r => r.Visits,
            "conversions" => r => r.Conversions,
            "revenue" => r => decimal.Parse(r.Revenue.Amount, CultureInfo.InvariantCulture),
            "cost" => r => r.Cost is { } cost ? decimal.Parse(cost.Amount, CultureInfo.InvariantCulture) : null,
            _ => null,
        };
}
