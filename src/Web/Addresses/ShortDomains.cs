using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outside;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Addresses;

/// <summary>The workspace's short domains: added, checked from outside, and chosen for links.</summary>
public sealed class ShortDomains(
    BeaconDb db,
    OutsideReader outside,
    SlugTable slugs,
    AuditLog auditLog,
    TimeProvider clock,
    IOptions<BeaconOptions> options
)
{
    private const string What = "short-domain";
    private const int MostDomains = 50;
    private const int LongestProof = 1_024;

    /// <summary>All of them, the first one first.</summary>
    public async Task<List<ShortDomainAnswer>> ListAsync(CancellationToken cancel) =>
        [
            .. (await db.ShortDomains.AsNoTracking().OrderByDescending(d => d.IsFirst).ThenBy(d => d.Host).ToListAsync(cancel)).Select(
                AnswerOf
            ),
        ];

    /// <summary>Adds one; links can be made on it once it was found to lead here.</summary>
    public async Task<Outcome<ShortDomainAnswer>> AddAsync(string? address, CancellationToken cancel)
    {
        var reading = DestinationReader.Read(address ?? "");
        if (reading.Destination is not { } read || read.Path.Trim('/').Length > 0 || read.Query is not null)
        {
            return Refused(
                reading.Notices is [var first, ..] && reading.Destination is null
                    ? first.Message
                    : "A short domain is only a host; write it like https://mmr.example."
            );
        }

        string host = read.HostAndPort;
        if (host.Equals(options.Value.PublicHost, StringComparison.OrdinalIgnoreCase))
        {
            return Refused($"{host} is where people sign in; it can't be a short domain; choose another host.");
        }

        if (await db.SiteHosts.AnyAsync(h => h.Host == host, cancel))
        {
            return Refused($"{host} is one of your sites; a short domain serves no pages, so choose another host.");
        }

        if (await db.ShortDomains.IgnoreQueryFilters().AnyAsync(d => d.Host == host, cancel))
        {
            return Refusal.Conflict("domain-taken", $"{host} is a short domain here already, of this workspace or another.");
        }

        if (await db.ShortDomains.CountAsync(cancel) >= MostDomains)
        {
            return Refused($"A workspace has at most {MostDomains} short domains; remove one that has no slugs.");
        }

        var domain = new ShortDomain { Host = host, Scheme = read.Scheme };
        db.ShortDomains.Add(domain);
        auditLog.Add(What, domain.Id, null, new { domain.Host });
        await db.SaveChangesAsync(cancel);
        return AnswerOf(domain);
    }

    /// <summary>Asks the domain from outside for what only this application answers under its name.</summary>
    /// <returns>The domain with what was found; null when there is no such domain.</returns>
    public async Task<ShortDomainAnswer?> CheckAsync(Guid id, CancellationToken cancel)
    {
        if (await db.ShortDomains.SingleOrDefaultAsync(d => d.Id == id, cancel) is not { } domain)
        {
            return null;
        }

        try
        {
            var page = await outside.FetchAsync(
                domain.UrlOf(ShortDomainPages.ProofPath[1..]),
                host => host == domain.Host,
                LongestProof,
                cancel
            );
            bool isHere = System.Text.Encoding.ASCII.GetString(page.Body).Trim() == domain.Proof;
            if (isHere && domain.CheckedAt is null)
            {
                await TakeOverAsync(domain, cancel);
            }

            (domain.CheckedAt, domain.Problem) = isHere
                ? (clock.GetUtcNow(), null)
                : (
                    domain.CheckedAt,
                    $"{domain.Host} is answered by another server; point its DNS name at this one, and let a proxy in front of it pass the Host header on."
                );
        }
        catch (OutsideException broken)
        {
            domain.Problem =
                $"{broken.Message} Point the DNS name {domain.Host} at this server, and let a proxy in front of it pass the Host header on.";
        }

        await db.SaveChangesAsync(cancel);
        return AnswerOf(domain);
    }

    /// <summary>The server's own host serves short links until a domain of their own does.</summary>
    private async Task TakeOverAsync(ShortDomain domain, CancellationToken cancel)
    {
        if (
            await db.ShortDomains.SingleOrDefaultAsync(d => d.IsFirst, cancel) is { } first
            && first.Host.Equals(options.Value.PublicHost, StringComparison.OrdinalIgnoreCase)
        )
        {
            first.IsFirst = false;
            await db.SaveChangesAsync(cancel); // one of a workspace is first, at every moment
            domain.IsFirst = true;
        }
    }

    /// <summary>Makes it the one that links are made on where none is chosen.</summary>
    public async Task<Refusal?> PutFirstAsync(Guid id, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.ShortDomains.SingleOrDefaultAsync(d => d.Id == id, cancel) is not { } domain)
        {
            return Refusal.NotFound("short domain");
        }

        if (!domain.IsUsable)
        {
            return Refusal.Unacceptable("domain-unchecked", $"{domain.Host} doesn't lead here yet; check it first.");
        }

        string? before = await db.ShortDomains.Where(d => d.IsFirst).Select(d => d.Host).SingleOrDefaultAsync(cancel);
        if (before != domain.Host)
        {
            // One at a time: the index that allows but one looks at each row as it is written.
            await db.ShortDomains.Where(d => d.IsFirst).ExecuteUpdateAsync(d => d.SetProperty(x => x.IsFirst, false), cancel);
            await db.ShortDomains.Where(d => d.Id == id).ExecuteUpdateAsync(d => d.SetProperty(x => x.IsFirst, true), cancel);
            auditLog.Add("short-domain-first", id, new { Host = before }, new { domain.Host });
            await db.SaveChangesAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>Takes one away that no link was made on.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        if (await db.ShortDomains.SingleOrDefaultAsync(d => d.Id == id, cancel) is not { } domain)
        {
            return Refusal.NotFound("short domain");
        }

        if (domain.IsFirst || await db.ShortLinks.AnyAsync(s => s.ShortDomainId == id, cancel))
        {
            return Refusal.Conflict(
                "domain-used",
                domain.IsFirst
                    ? $"{domain.Host} is the default for new links; make another one the default first."
                    : $"{domain.Host} has short links, perhaps in print; it can't be removed while they exist."
            );
        }

        db.ShortDomains.Remove(domain);
        auditLog.Add(What, id, new { domain.Host }, null);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private ShortDomainAnswer AnswerOf(ShortDomain d) =>
        new(d.Id, d.Host, $"{d.Scheme}://{d.Host}", d.IsFirst, d.IsUsable, slugs.CountOn(d.Host), d.CheckedAt, d.Problem);

    private static Refusal Refused(string says) => Refusal.Unacceptable("domain-refused", says);
}
