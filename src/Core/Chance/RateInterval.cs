namespace PreciseBeacon.Core.Chance;

/// <summary>What a rate may truly be, seen from some trials of it.</summary>
/// <param name="Low">Lower end, 0 to 1.</param>
/// <param name="High">Upper end, 0 to 1.</param>
public readonly record struct RateInterval(double Low, double High)
{
    /// <summary>The quantile of the standard normal distribution at 97.5 %: two-sided 95 %.</summary>
    public const double Z95 = 1.959963984540054;

    /// <summary>Wilson's score interval without continuity correction (Wilson 1927; Newcombe 1998, method 3).</summary>
    /// <param name="successes">0 to <paramref name="trials"/>.</param>
    /// <param name="trials">At least 1.</param>
    /// <param name="z">The quantile; 95 % where it is left out.</param>
    public static RateInterval Wilson(long successes, long trials, double z = Z95)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(trials, 1);
        ArgumentOutOfRangeException.ThrowIfNegative(successes);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(successes, trials);
        double n = trials,
            p = successes / n,
            square = z * z;
        double middle = p + (square / (2 * n));
        double half = z * Math.Sqrt((p * (1 - p) / n) + (square / (4 * n * n)));
        double whole = 1 + (square / n);
        return new RateInterval(
            successes == 0 ? 0 : Math.Max(0, (middle - half) / whole),
            successes == trials ? 1 : Math.Min(1, (middle + half) / whole)
        );
    }
}
