using System.Net;
using System.Threading.RateLimiting;
using PreciseBeacon.Core.Outside;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Keeps a flood of reports from one client, or for one site, from drowning the others.</summary>
public sealed class ReportThrottle : IDisposable
{
    // No person reads twenty pages a second; a whole office behind one address may (ours).
    private readonly PartitionedRateLimiter<(Guid Site, IPAddress Network)> _clients = Buckets<(Guid, IPAddress)>(burst: 200, perSecond: 40);
    private readonly PartitionedRateLimiter<Guid> _sites = Buckets<Guid>(burst: 10_000, perSecond: 2_000);

    public bool MayReport(Guid siteId, IPAddress? client)
    {
        using var byClient = _clients.AttemptAcquire((siteId, ClientNetwork.Of(client)));
        if (!byClient.IsAcquired)
        {
            return false;
        }

        using var bySite = _sites.AttemptAcquire(siteId);
        return bySite.IsAcquired;
    }

    public void Dispose()
    {
        _clients.Dispose();
        _sites.Dispose();
    }

    private static PartitionedRateLimiter<T> Buckets<T>(int burst, int perSecond)
        where T : notnull =>
        PartitionedRateLimiter.Create<T, T>(key => RateLimitPartition.GetTokenBucketLimiter(key, _ => new TokenBucketRateLimiterOptions
        {
            TokenLimit = burst,
            TokensPerPeriod = perSecond,
            ReplenishmentPeriod = TimeSpan.FromSeconds(1),
        }));
}
