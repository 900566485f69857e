namespace PreciseBeacon.Core.Chance;

/// <summary>
/// What a difference of two rates may truly be, honest for somebody who looks as often as they like (Robbins 1970; Howard, Ramdas,
/// McAuliffe and Sekhon 2021): with V the pooled variance of the difference and t = 1/V, ± V·√((t + ρ)·ln((t + ρ)/(ρ·α²))).
/// </summary>
/// <param name="Rho">Where the sequence is narrowest, in units of information; fixed at the first look.</param>
/// <param name="Alpha">How often it may ever be wrong, 0 to 1.</param>
public readonly record struct ConfidenceSequence(double Rho, double Alpha)
{
    /// <summary>An eighth of the information at this many on each side (reports, section 5).</summary>
    private const double TunedFor = 1_000;
    private const double TunedShare = 8;

    /// <summary>A sequence for a rate as it was when first looked at.</summary>
    /// <param name="pooled">The rate of both sides together then, over 0 and under 1.</param>
    /// <param name="alpha">How often it may ever be wrong, 0 to 1.</param>
    public static ConfidenceSequence For(double pooled, double alpha) => new(TunedFor / (2 * pooled * (1 - pooled)) / TunedShare, alpha);

    /// <summary>Half the width of the interval around a difference.</summary>
    /// <param name="pooled">The rate of both sides together, over 0 and under 1.</param>
    /// <param name="one">Trials of the one side, over 0; not only whole ones, for asking what more would do.</param>
    /// <param name="other">Trials of the other.</param>
    public double HalfWidth(double pooled, double one, double other)
    {
        double variance = pooled * (1 - pooled) * ((1 / one) + (1 / other));
        double information = 1 / variance;
        return variance * Math.Sqrt((information + Rho) * Math.Log((information + Rho) / (Rho * Alpha * Alpha)));
    }
}
