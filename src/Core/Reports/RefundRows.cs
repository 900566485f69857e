using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>Sorts refunds into the rows of a report: a refund stands where its order's visit does, and on its own day.</summary>
public static class RefundRows
{
    /// <summary>Money that went back, by row and in the workspace's currency, and beside it that in other currencies by ISO 4217 code.</summary>
    /// <param name="orders">Orders with all their refunds, also those outside of the range.</param>
    /// <param name="maps">The report's maps.</param>
    /// <param name="rows">How many fields rows are made by.</param>
    /// <param name="from">First day of the range.</param>
    /// <param name="to">Last day of the range.</param>
    /// <param name="currency">The workspace's.</param>
    /// <param name="credit">Says the touches of an order's visit and how much each counts; null where refunds stand with that visit.</param>
    public static (Dictionary<RowKey, decimal> Rows, Dictionary<string, decimal> Elsewhere) Of(
        IEnumerable<RefundedOrder> orders,
        IReadOnlyList<RowMap> maps,
        int rows,
        DateOnly from,
        DateOnly to,
        string currency,
        Func<RefundedOrder, IReadOnlyList<(int SourceId, long Weight)>>? credit = null
    )
    {
        var found = new Dictionary<RowKey, decimal>();
        var elsewhere = new Dictionary<string, decimal>(StringComparer.Ordinal);
        foreach (var order in orders)
        {
            var faults = Refunds.Judge(order.Value, order.Currency, order.Refunds.Select(r => (r.Value, r.Currency)));
            foreach (var refund in order.Refunds.Where((r, i) => faults[i] is null && r.Day >= from && r.Day <= to))
            {
                foreach (var (sourceId, value) in SharesOf(order, refund, credit))
                {
                    if (KeyOf(order with { SourceId = sourceId }, refund.Day, maps, rows) is not { } key)
                    {
                        continue;
                    }

                    if (refund.Currency == currency)
                    {
                        found[key] = found.GetValueOrDefault(key) + value;
                    }
                    else
                    {
                        elsewhere[refund.Currency] = elsewhere.GetValueOrDefault(refund.Currency) + value;
                    }
                }
            }
        }

        return (found, elsewhere);
    }

    private static IEnumerable<(int SourceId, decimal Value)> SharesOf(
        RefundedOrder order,
        DayRefund refund,
        Func<RefundedOrder, IReadOnlyList<(int SourceId, long Weight)>>? credit
    )
    {
        if (credit is null)
        {
            return [(order.SourceId, refund.Value)];
        }

        var touches = credit(order);
        decimal[] shares = new decimal[touches.Count];
        CreditShares.OfMoney(refund.Value, Currencies.DecimalsOf(refund.Currency), [.. touches.Select(t => t.Weight)], shares);
        return touches.Select((t, i) => (t.SourceId, shares[i])).Where(t => t.Item2 != 0);
    }

    private static RowKey? KeyOf(RefundedOrder order, DateOnly day, IReadOnlyList<RowMap> maps, int rows)
    {
        string?[] keys = new string?[rows];
        foreach (var map in maps)
        {
            int group = map.GroupOf(
                map.Table switch
                {
                    RowTable.Source => order.SourceId,
                    RowTable.LandingPage => order.LandingPageId,
                    RowTable.LastPage => order.LastPageId,
                    RowTable.Place => order.PlaceId,
                    RowTable.Device => order.DeviceId,
                    RowTable.Hour => order.Hour,
                    RowTable.Visitor => order.VisitorKind,
                    RowTable.FirstSource => order.FirstSourceId,
                    _ => day.DayNumber,
                }
            );
            if (group == RowMap.None)
            {
                return null;
            }

            for (int f = 0; f < map.Fields.Count; f++)
            {
                keys[map.Fields[f].Place] = map.Names[group][f];
            }
        }

        return new RowKey(keys);
    }
}

/// <summary>An order for which money went back, with the ids of what its visit refers to.</summary>
/// <param name="Value">What the order brought; null for nothing.</param>
/// <param name="Currency">ISO 4217; null where nobody said.</param>
/// <param name="SourceId">The traffic source of its visit.</param>
/// <param name="LandingPageId">The visit's first page.</param>
/// <param name="LastPageId">Its last page.</param>
/// <param name="PlaceId">Where its visitor was.</param>
/// <param name="DeviceId">Its device.</param>
/// <param name="Hour">The hour it began in, 0 to 23.</param>
/// <param name="VisitorKind">See <see cref="VisitorKinds"/>.</param>
/// <param name="Refunds">All refunds of the order, in the order they came.</param>
public sealed record RefundedOrder(
    decimal? Value,
    string? Currency,
    int SourceId,
    int LandingPageId,
    int LastPageId,
    int PlaceId,
    int DeviceId,
    int Hour,
    int VisitorKind,
    IReadOnlyList<DayRefund> Refunds
)
{
    /// <summary>Its visitor, as <see cref="VisitColumns.Visitors"/> has them; 0 where it is no longer known.</summary>
    public ulong Visitor { get; init; }

    /// <summary>When its visit began, in seconds since 0001-01-01 00:00 UTC.</summary>
    public long At { get; init; }

    /// <summary>The source of the first visit known of its visitor; 0 where that has no id.</summary>
    public int FirstSourceId { get; init; }
}

/// <summary>Money that went back on a day.</summary>
/// <param name="Day">The day, in the workspace's zone.</param>
/// <param name="Value">How much, above 0.</param>
/// <param name="Currency">ISO 4217.</param>
public readonly record struct DayRefund(DateOnly Day, decimal Value, string Currency);
