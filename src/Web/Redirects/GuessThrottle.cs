using System.Net;
using System.Threading.RateLimiting;

namespace PreciseBeacon.Web.Redirects;

/// <summary>
/// Slows down whoever tries slugs that don't exist. Known slugs are never held up. Addresses are kept in memory only,
/// for as long as somebody is guessing.
/// </summary>
public sealed class GuessThrottle : IDisposable
{
    /// <summary>Wrong slugs an address may ask for in a row, and in a minute after that (ours).</summary>
    public const int MostGuesses = 30;

    private readonly PartitionedRateLimiter<IPAddress> _limiter = PartitionedRateLimiter.Create<IPAddress, IPAddress>(address =>
        RateLimitPartition.GetTokenBucketLimiter(address, static _ => new TokenBucketRateLimiterOptions
        {
            TokenLimit = MostGuesses,
            TokensPerPeriod = MostGuesses,
            ReplenishmentPeriod = TimeSpan.FromMinutes(1),
        }));

    public bool MayGuess(IPAddress? address)
    {
        using var lease = _limiter.AttemptAcquire(address ?? IPAddress.None);
        return lease.IsAcquired;
    }

    public void Dispose() => _limiter.Dispose();
}
