using System.Net;
using System.Threading.RateLimiting;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Redirects;

/// <summary>
/// Slows down whoever tries slugs that don't exist, or looks at a great many. Following a known slug is never held up. Addresses are kept in memory only,
/// for as long as somebody is guessing.
/// </summary>
public sealed class GuessThrottle(IOptions<BeaconOptions> options) : IDisposable
{
    /// <summary>Wrong slugs an address may ask for in a row, and in a minute after that, unless the operator says otherwise (ours).</summary>
    public const int MostGuesses = 30;

    /// <summary>Pages saying where links lead an address may ask for in a row, and in a minute after that: each asks the database (ours).</summary>
    public const int MostLooks = 120;

    private readonly PartitionedRateLimiter<IPAddress> _guesses = PerMinute(options.Value.MostGuesses);
    private readonly PartitionedRateLimiter<IPAddress> _looks = PerMinute(MostLooks);

    /// <summary>Whether an address may be told once more that a slug does not exist.</summary>
    public bool MayGuess(IPAddress? address) => May(_guesses, address);

    /// <summary>Whether an address may be told once more where a link leads.</summary>
    public bool MayLook(IPAddress? address) => May(_looks, address);

    public void Dispose()
    {
        _guesses.Dispose();
        _looks.Dispose();
    }

    private static bool May(PartitionedRateLimiter<IPAddress> limiter, IPAddress? address)
    {
        using var lease = limiter.AttemptAcquire(ClientNetwork.Of(address));
        return lease.IsAcquired;
    }

    private static PartitionedRateLimiter<IPAddress> PerMinute(int most) => TokenBuckets.Of<IPAddress>(most, most, TimeSpan.FromMinutes(1));
}
