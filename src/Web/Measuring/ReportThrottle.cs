using System.Net;
using System.Threading.RateLimiting;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Keeps a flood of reports from one client, or for one site, from drowning the others.</summary>
public sealed class ReportThrottle : IDisposable
{
    // No person reads twenty pages a second; a whole office behind one address may (ours).
    private readonly PartitionedRateLimiter<(Guid Site, IPAddress Network)> _clients = TokenBuckets.Of<(Guid, IPAddress)>(
        burst: 200,
        again: 40,
        TimeSpan.FromSeconds(1)
    );
    private readonly PartitionedRateLimiter<Guid> _sites = TokenBuckets.Of<Guid>(burst: 10_000, again: 2_000, TimeSpan.FromSeconds(1));

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
}
