namespace PreciseBeacon.Core.Conversions;

/// <summary>
/// Money that went back for an order: partly or repeatedly, and never more than the order brought. In the order they came, each counts
/// that fits into what is left of it.
/// </summary>
public static class Refunds
{
    /// <summary>Which of an order's refunds count.</summary>
    /// <param name="value">What the order brought; null for nothing.</param>
    /// <param name="currency">ISO 4217 of that; null where nobody said, which counts as any.</param>
    /// <param name="refunds">Value and currency of each, in the order they came; each value above 0.</param>
    /// <returns>In the same order: what keeps a refund from counting, or null.</returns>
    public static IReadOnlyList<RefundFault?> Judge(decimal? value, string? currency, IEnumerable<(decimal Value, string Currency)> refunds)
    {
        decimal left = value ?? 0;
        var faults = new List<RefundFault?>();
        foreach (var refund in refunds)
        {
            RefundFault? fault =
                currency is not null && currency != refund.Currency ? RefundFault.OtherCurrency
                : refund.Value > left ? RefundFault.LargerThanOrder
                : null;
            left -= fault is null ? refund.Value : 0;
            faults.Add(fault);
        }

        return faults;
    }
}

/// <summary>What keeps a refund from counting.</summary>
public enum RefundFault
{
    /// <summary>Its order was paid in another currency.</summary>
    OtherCurrency,

    /// <summary>With what went back before, it is more than the order brought.</summary>
    LargerThanOrder,
}
