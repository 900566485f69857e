using PreciseBeacon.Core.Chance;

namespace PreciseBeacon.CoreTests.Chance;

public sealed class TwoProportionsTests
{
    /// <summary>Two-sided tails of the normal distribution as Python's standard library has them (<c>2 * (1 - NormalDist().cdf(z))</c>, 3.11).</summary>
    [Theory]
    [InlineData(50, 1_000, 50, 1_000, 0, 1)]
    [InlineData(60, 1_000, 45, 1_000, 1.5039, 0.1326)]
    [InlineData(130, 2_000, 100, 2_000, 2.0376, 0.0416)]
    [InlineData(30, 100, 10, 100, 3.5355, 0.000407)]
    [InlineData(10, 100, 30, 100, -3.5355, 0.000407)]
    [InlineData(0, 100, 0, 50, 0, 1)]
    [InlineData(100, 100, 50, 50, 0, 1)]
    public void The_plain_test_pools_the_variance(long one, long ofOne, long other, long ofOther, double z, double p)
    {
        Assert.Equal(z, TwoProportions.Z((one, ofOne), (other, ofOther)), 4);
        Assert.Equal(p, TwoProportions.P((one, ofOne), (other, ofOther)), p < 0.001 ? 6 : 4);
    }

    /// <summary>Both ways of working the tail out meet at z = 3√2 (2.209e-5; the table of the error function has erfc(3) = 2.20905e-5).</summary>
    [Fact]
    public void The_tail_goes_on_where_its_two_ways_meet()
    {
        double before = PAt(4.2425),
            after = PAt(4.2428);
        Assert.Equal(2.20905e-5, before, 7);
        Assert.InRange(after, before * 0.998, before);

        // A difference whose statistic is about z: of a million a side, around one half.
        static double PAt(double z)
        {
            const long N = 1_000_000_000;
            long more = (long)(z * Math.Sqrt(N / 8.0));
            return TwoProportions.P(((N / 2) + more, N), ((N / 2) - more, N));
        }
    }

    /// <summary>Holm 1979: the smallest times three, the next times two, the greatest as it is, and never smaller than one before.</summary>
    [Fact]
    public void Several_values_are_corrected_step_by_step()
    {
        Assert.Equal([0.03, 0.06, 0.06], TwoProportions.Holm([0.01, 0.04, 0.03]));
        Assert.Equal([1, 1], TwoProportions.Holm([0.9, 0.8]));
        Assert.Empty(TwoProportions.Holm([]));
    }
}
