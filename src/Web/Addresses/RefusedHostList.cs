using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Addresses;

/// <summary>Hosts that nothing may lead to. Short links that lead there already stop at once; taken off the list, they go on.</summary>
public sealed class RefusedHostList(BeaconDb db, LinkInputsReader inputs, PendingLinks waiting, AuditLog auditLog, TimeProvider clock)
{
    private const string What = "refused-host";
    private const int MostHosts = 1_000;
    private const int SampleSize = 5;

    public Task<List<RefusedHostAnswer>> ListAsync(CancellationToken cancel) =>
        db.RefusedHosts.OrderBy(h => h.Host).Select(h => new RefusedHostAnswer(h.Id, h.Host, h.RefusedBy, h.RefusedAt)).ToListAsync(cancel);

    /// <summary>What refusing a host would stop; nothing is changed.</summary>
    public async Task<Outcome<RefusedHostEffect>> CountAsync(string? typed, CancellationToken cancel)
    {
        var (host, refusal) = await AcceptedAsync(typed, cancel);
        return host is null ? refusal! : await EffectAsync(host, cancel);
    }

    /// <summary>Puts a host on the list.</summary>
    public async Task<Outcome<RefusedHostEffect>> AddAsync(string? typed, CancellationToken cancel)
    {
        var (host, refusal) = await AcceptedAsync(typed, cancel);
        if (host is null)
        {
            return refusal!;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var effect = await EffectAsync(host, cancel);
        var entry = new RefusedHost
        {
            Host = host,
            RefusedBy = auditLog.Who,
            RefusedAt = clock.GetUtcNow(),
        };
        db.RefusedHosts.Add(entry);
        auditLog.Add(What, entry.Id, null, new { entry.Host, effect.ShortLinks });
        await db.SaveChangesAsync(cancel);
        await waiting.StopAsync(host, cancel);
        await transaction.CommitAsync(cancel);
        return effect;
    }

    /// <summary>Takes a host off the list.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.RefusedHosts.SingleOrDefaultAsync(h => h.Id == id, cancel) is not { } entry)
        {
            return Refusal.NotFound("host");
        }

        db.RefusedHosts.Remove(entry);
        auditLog.Add(What, id, new { entry.Host }, null);
        await db.SaveChangesAsync(cancel);
        await waiting.WakeAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    private async Task<Outcome<string>> AcceptedAsync(string? typed, CancellationToken cancel)
    {
        var (host, problem) = RefusedHosts.Read(typed ?? "");
        if (host is null)
        {
            return Refusal.Unacceptable("host-unreadable", problem!);
        }

        var facts = await inputs.FactsAsync(cancel);
        var alone = new HashSet<string> { host };
        if (facts.OwnHosts.Keys.FirstOrDefault(h => RefusedHosts.Find(alone, h) is not null) is { } own)
        {
            return Refusal.Unacceptable("host-own", $"{own} is one of your own sites and can't be blocked.");
        }

        if (facts.RefusedHosts.Contains(host))
        {
            return Refusal.Conflict("host-listed", $"{host} is already blocked.");
        }

        return facts.RefusedHosts.Count >= MostHosts
            ? Refusal.Unacceptable("hosts-many", $"The list holds at most {MostHosts:N0} hosts; one entry blocks all its subdomains.")
            : host;
    }

    private async Task<RefusedHostEffect> EffectAsync(string host, CancellationToken cancel)
    {
        var leading = await waiting.LeadingToAsync(host, SampleSize, cancel);
        return new RefusedHostEffect(host, leading.Count, leading.Sample);
    }
}
