using PreciseBeacon.Core.Chance;

namespace PreciseBeacon.CoreTests.Chance;

public sealed class RateIntervalTests
{
    /// <summary>Newcombe 1998, Table I, method 3 (Wilson's score interval without continuity correction); from memory.</summary>
    [Theory]
    [InlineData(81, 263, 0.2553, 0.3662)]
    [InlineData(15, 148, 0.0624, 0.1605)]
    [InlineData(0, 20, 0.0000, 0.1611)]
    [InlineData(1, 29, 0.0061, 0.1718)]
    public void Wilsons_interval_has_the_published_ends(long successes, long trials, double low, double high)
    {
        var interval = RateInterval.Wilson(successes, trials);
        Assert.Equal((low, high), (Math.Round(interval.Low, 4), Math.Round(interval.High, 4)));
    }

    [Fact]
    public void It_holds_the_rate_stays_within_0_and_1_and_is_the_same_seen_from_the_other_side()
    {
        for (int trials = 1; trials < 60; trials++)
        {
            for (int successes = 0; successes <= trials; successes++)
            {
                var one = RateInterval.Wilson(successes, trials);
                var other = RateInterval.Wilson(trials - successes, trials);
                Assert.InRange((double)successes / trials, one.Low, one.High);
                Assert.InRange(one.Low, 0, 1);
                Assert.InRange(one.High, 0, 1);
                Assert.Equal(one.Low, 1 - other.High, 12);
            }
        }

        Assert.Throws<ArgumentOutOfRangeException>(() => RateInterval.Wilson(0, 0));
        Assert.Throws<ArgumentOutOfRangeException>(() => RateInterval.Wilson(3, 2));
    }
}
