using System.Net;
using System.Threading.RateLimiting;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Slows down whoever tries wrong keys from one network. A right key is never held up.</summary>
public sealed class KeyThrottle : IDisposable
{
    /// <summary>Wrong keys a network may send in a row; a third of it each minute after that (ours).</summary>
    private const int MostWrong = 60;

    private readonly PartitionedRateLimiter<IPAddress> _networks = TokenBuckets.Of<IPAddress>(
        MostWrong,
        MostWrong / 3,
        TimeSpan.FromMinutes(1)
    );

    /// <summary>Counts a wrong key.</summary>
    /// <returns>False when there were too many.</returns>
    public bool CountWrong(IPAddress? address)
    {
        using var lease = _networks.AttemptAcquire(ClientNetwork.Of(address));
        return lease.IsAcquired;
    }

    public void Dispose() => _networks.Dispose();
}
