namespace PreciseBeacon.Core.Credit;

/// <summary>
/// Shares out what is whole, so that the shares add up to it exactly: what is left over after rounding down goes to the largest fractions,
/// one unit each (the method of largest remainders), of equal ones to the earlier.
/// </summary>
public static class CreditShares
{
    /// <summary>A conversion is shared out in so many parts.</summary>
    public const long PerConversion = 1_000_000;

    /// <summary>Two numbers up to it have a product of 62 bits.</summary>
    private const long Small = 1L << 31;

    private static readonly decimal[] Powers = [1, 10, 100, 1_000];

    /// <summary>Shares out whole units.</summary>
    /// <param name="units">How many, of either sign.</param>
    /// <param name="weights">By which; from 0, at least one above it.</param>
    /// <param name="shares">As many as there are weights.</param>
    public static void Of(long units, ReadOnlySpan<long> weights, Span<long> shares)
    {
        Int128 all = 0;
        int only = -1;
        int counting = 0;
        for (int i = 0; i < weights.Length; i++)
        {
            all += weights[i];
            (only, counting) = weights[i] == 0 ? (only, counting) : (i, counting + 1);
        }

        if (counting == 1)
        {
            shares.Clear();
            shares[only] = units;
            return;
        }

        var left = weights.Length <= CreditChoice.MostTouches ? stackalloc Int128[weights.Length] : new Int128[weights.Length];
        long given = 0;
        long whole = Math.Abs(units);
        for (int i = 0; i < weights.Length; i++)
        {
            if (whole <= Small && weights[i] <= Small)
            {
                // Nearly always: as numbers of 64 bits, which is quicker by far.
                (shares[i], long rest) = long.DivRem(whole * weights[i], (long)all);
                left[i] = rest;
            }
            else
            {
                (Int128 share, left[i]) = Int128.DivRem((Int128)whole * weights[i], all);
                shares[i] = (long)share;
            }

            given += shares[i];
        }

        for (; given < whole; given++)
        {
            int largest = 0;
            for (int i = 1; i < left.Length; i++)
            {
                largest = left[i] > left[largest] ? i : largest;
            }

            shares[largest]++;
            left[largest] = -1;
        }

        if (units < 0)
        {
            foreach (ref long share in shares)
            {
                share = -share;
            }
        }
    }

    /// <summary>Shares out money in whole minor units; what is smaller than one of these goes with the largest share.</summary>
    /// <param name="money">How much; up to 9 × 10^15.</param>
    /// <param name="decimals">Digits of the currency's minor unit, 0 to 3 (ISO 4217).</param>
    /// <param name="weights">By which.</param>
    /// <param name="shares">As many as there are weights.</param>
    public static void OfMoney(decimal money, int decimals, ReadOnlySpan<long> weights, Span<decimal> shares)
    {
        decimal power = Powers[decimals];
        long units = (long)decimal.Truncate(money * power);
        var parts = weights.Length <= CreditChoice.MostTouches ? stackalloc long[weights.Length] : new long[weights.Length];
        Of(units, weights, parts);
        int largest = 0;
        for (int i = 0; i < parts.Length; i++)
        {
            shares[i] = parts[i] / power;
            largest = weights[i] > weights[largest] ? i : largest;
        }

        shares[largest] += money - (units / power);
    }
}
