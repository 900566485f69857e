using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Compose;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Short links that must not lead on: until an owner approves their host, and while it is on the list of those never allowed.</summary>
public sealed class WaitingLinks(BeaconDb db, LinkWorkshop workshop)
{
    /// <summary>Lets every waiting short link go on whose host is one's own or approved, and not refused.</summary>
    /// <returns>How many began to work.</returns>
    public async Task<int> WakeAsync(CancellationToken cancel)
    {
        var facts = await workshop.FactsAsync(cancel);
        var waiting = await db.ShortLinks.Where(s => s.State == ShortLinkState.Waiting).Select(s => new { s.Id, s.Target }).ToListAsync(cancel);
        List<Guid> free = [.. waiting.Where(w => DestinationReader.Read(w.Target).Destination is { } page && facts.IsOwnOrApproved(page.HostAndPort)).Select(w => w.Id)];
        return free.Count == 0 ? 0 : await db.ShortLinks.Where(s => free.Contains(s.Id)).ExecuteUpdateAsync(s => s.SetProperty(x => x.State, ShortLinkState.Live), cancel);
    }

    /// <summary>Stops every short link that leads to a host or below it, be it after its end or for some time only.</summary>
    public async Task StopAsync(string host, CancellationToken cancel) => await Leading(host).ExecuteUpdateAsync(s => s.SetProperty(x => x.State, ShortLinkState.Waiting), cancel);

    /// <summary>How many short links lead to a host or below it, and the addresses of some.</summary>
    public async Task<(int Count, List<string> Sample)> LeadingToAsync(string host, int most, CancellationToken cancel)
    {
        int count = await Leading(host).CountAsync(cancel);
        var some = count == 0 ? [] : await Leading(host).OrderBy(s => s.Id).Take(most).Select(s => new { s.ShortDomain, s.Slug }).ToListAsync(cancel);
        return (count, [.. some.Select(s => s.ShortDomain!.UrlOf(s.Slug))]);
    }

    private IQueryable<ShortLink> Leading(string host)
    {
        // A host of names, dots and hyphens alone, so that only the dots mean something in a pattern.
        string pattern = $"^https?://([^/?#]*\\.)?{host.Replace(".", "\\.", StringComparison.Ordinal)}(:[0-9]+)?([/?#]|$)";
        string anywhere = $"\"https?://([^/?#\"]*\\.)?{host.Replace(".", "\\.", StringComparison.Ordinal)}(:[0-9]+)?[/?#\"]";
        var links = db.Links.FromSql($"select * from links where url ~* {pattern} or leads_to ~* {pattern} or fallback ~* {pattern} or turns::text ~* {anywhere}").Select(l => l.Id);
        return db.ShortLinks.Where(s => s.State == ShortLinkState.Live && links.Contains(s.LinkId));
    }
}
