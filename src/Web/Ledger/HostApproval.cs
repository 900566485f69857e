using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Ledger;

/// <summary>An owner lets links lead to a foreign host; the short links that waited for it begin to work.</summary>
public sealed class HostApproval(BeaconDb db, PendingLinks waiting, TimeProvider clock)
{
    /// <summary>Approves a host.</summary>
    /// <returns>False when the workspace has no such host.</returns>
    public async Task<bool> ApproveAsync(Guid id, string who, CancellationToken cancel)
    {
        var host = await db.ApprovedHosts.SingleOrDefaultAsync(h => h.Id == id, cancel);
        if (host is null || host.Approved)
        {
            return host is not null;
        }

        host.Approved = true;
        host.DecidedBy = who;
        host.DecidedAt = clock.GetUtcNow();
        db.ChangeLog.Add(
            new ChangeLogEntry
            {
                At = clock.GetUtcNow(),
                Who = who,
                What = "approved-host",
                ThingId = host.Id,
                After = JsonSerializer.Serialize(new { host.Host, approved = true }, JsonSerializerOptions.Web),
            }
        );
        await db.SaveChangesAsync(cancel);
        await waiting.WakeAsync(cancel);
        return true;
    }
}
