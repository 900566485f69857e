using System.Threading.RateLimiting;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Buckets that grow again: one for each key, kept only as long as it is not full.</summary>
public static class TokenBuckets
{
    /// <summary>A bucket for each key.</summary>
    /// <param name="burst">How much may be taken in a row.</param>
    /// <param name="again">How much grows again each time.</param>
    /// <param name="every">How often.</param>
    public static PartitionedRateLimiter<T> Of<T>(int burst, int again, TimeSpan every)
        where T : notnull =>
        PartitionedRateLimiter.Create<T, T>(key => RateLimitPartition.GetTokenBucketLimiter(key, _ => Options(burst, again, every)));

    public static TokenBucketRateLimiterOptions Options(int burst, int again, TimeSpan every) =>
        new()
        {
            TokenLimit = burst,
            TokensPerPeriod = again,
            ReplenishmentPeriod = every,
        };
}
