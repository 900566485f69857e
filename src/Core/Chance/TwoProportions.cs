namespace PreciseBeacon.Core.Chance;

/// <summary>The plain test for two proportions, with the pooled variance (NIST/SEMATECH e-Handbook, 7.3.3).</summary>
public static class TwoProportions
{
    /// <summary>The test's statistic; 0 where both rates are 0 or both are 1.</summary>
    /// <param name="one">Successes and trials of the one side.</param>
    /// <param name="other">Those of the other.</param>
    public static double Z((long Successes, long Trials) one, (long Successes, long Trials) other)
    {
        double pooled = Pooled(one, other);
        double variance = pooled * (1 - pooled) * ((1.0 / one.Trials) + (1.0 / other.Trials));
        return variance == 0 ? 0 : (((double)one.Successes / one.Trials) - ((double)other.Successes / other.Trials)) / Math.Sqrt(variance);
    }

    /// <summary>How likely a difference at least as great is by chance alone, two-sided; 0 to 1.</summary>
    public static double P((long Successes, long Trials) one, (long Successes, long Trials) other) =>
        Math.Clamp(2 * NormalTail(Math.Abs(Z(one, other))), 0, 1);

    /// <summary>The rate of both sides together.</summary>
    public static double Pooled((long Successes, long Trials) one, (long Successes, long Trials) other) =>
        (double)(one.Successes + other.Successes) / (one.Trials + other.Trials);

    /// <summary>
    /// Values of p corrected for being several, in the order given: the smallest times their number, the next times one less, and none
    /// smaller than one before it (Holm 1979).
    /// </summary>
    public static double[] Holm(IReadOnlyList<double> values)
    {
        double[] corrected = new double[values.Count];
        double most = 0;
        int rank = 0;
        foreach (int i in Enumerable.Range(0, values.Count).OrderBy(i => values[i]))
        {
            most = Math.Max(most, Math.Min(1, values[i] * (values.Count - rank++)));
            corrected[i] = most;
        }

        return corrected;
    }

    /// <summary>
    /// The upper tail of the standard normal distribution: by the series of the error function (Abramowitz and Stegun, 7.1.6), and by its
    /// continued fraction (7.1.14) where subtracting from 1 would lose digits.
    /// </summary>
    private static double NormalTail(double z)
    {
        double x = z / Math.Sqrt(2);
        if (x < 3)
        {
            double term = x,
                sum = x;
            for (int n = 1; term > 1e-18 * sum; n++)
            {
                term *= 2 * x * x / ((2 * n) + 1);
                sum += term;
            }

            return 0.5 * (1 - (2 / Math.Sqrt(Math.PI) * Math.Exp(-x * x) * sum));
        }

        double fraction = x;
        for (int n = 60; n > 0; n--)
        {
            fraction = x + (n / 2.0 / fraction);
        }

        return 0.5 * Math.Exp(-x * x) / (Math.Sqrt(Math.PI) * fraction);
    }
}
