using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Hosts people pass through, such as payment pages. A change has the visits it matters to worked out again.</summary>
public sealed class PassingHostList(BeaconDb db, PassingVisits visits, AuditLog auditLog, TimeProvider clock)
{
    private const string What = "passing-host";
    private const int MostHosts = 200;

    private Guid Workspace => db.CurrentWorkspaceId!.Value;

    /// <summary>Those listed, and those that look as if they should be.</summary>
    public async Task<PassingHostsAnswer> ListAsync(CancellationToken cancel)
    {
        var hosts = await db.PassingHosts.AsNoTracking().OrderBy(h => h.Host).ToListAsync(cancel);
        return new PassingHostsAnswer(
            [.. hosts.Select(h => new PassingHostAnswer(h.Id, h.Host, h.AddedBy, h.AddedAt))],
            await visits.SuggestAsync(Workspace, cancel)
        );
    }

    /// <summary>What listing a host would change; nothing is changed.</summary>
    public async Task<Outcome<PassingHostEffect>> CountAsync(string? typed, CancellationToken cancel)
    {
        var (host, refusal) = await AcceptedAsync(typed, cancel);
        return host is null ? refusal! : new PassingHostEffect(host, await visits.CountAsync(Workspace, host, cancel));
    }

    /// <summary>Lists a host.</summary>
    public async Task<Outcome<PassingHostEffect>> AddAsync(string? typed, CancellationToken cancel)
    {
        var (host, refusal) = await AcceptedAsync(typed, cancel);
        if (host is null)
        {
            return refusal!;
        }

        var effect = new PassingHostEffect(host, await visits.CountAsync(Workspace, host, cancel));
        int[] sources = await visits.SourcesAsync(Workspace, host, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var entry = new PassingHost
        {
            Host = host,
            AddedBy = auditLog.Who,
            AddedAt = clock.GetUtcNow(),
        };
        db.PassingHosts.Add(entry);
        auditLog.Add(What, entry.Id, null, new { entry.Host, effect.Visits });
        await db.SaveChangesAsync(cancel);
        await PassingVisits.MarkVisitsAsync((NpgsqlConnection)db.Database.GetDbConnection(), Workspace, sources, cancel);
        await transaction.CommitAsync(cancel);
        return effect;
    }

    /// <summary>Takes a host off the list.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.PassingHosts.SingleOrDefaultAsync(h => h.Id == id, cancel) is not { } entry)
        {
            return Refusal.NotFound("host");
        }

        db.PassingHosts.Remove(entry);
        auditLog.Add(What, id, new { entry.Host }, null);
        await db.SaveChangesAsync(cancel);
        await PassingVisits.MarkEventsAsync((NpgsqlConnection)db.Database.GetDbConnection(), Workspace, entry.Host, cancel);
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

        var alone = new HashSet<string> { host };
        var own = await db.Sites.AsNoTracking().SelectMany(s => s.Hosts).Select(h => h.Host).ToListAsync(cancel);
        if (own.Find(h => RefusedHosts.Find(alone, h) is not null) is { } mine)
        {
            return Refusal.Unacceptable("host-own", $"{mine} is one of your own sites; coming from there never begins a visit.");
        }

        var listed = await db.PassingHosts.AsNoTracking().Select(h => h.Host).ToListAsync(cancel);
        return listed.Contains(host) ? Refusal.Conflict("host-listed", $"{host} is on the list already.")
            : listed.Count >= MostHosts
                ? Refusal.Unacceptable("hosts-many", $"The list holds at most {MostHosts:N0} hosts; one entry covers all its subdomains.")
            : host;
    }
}

/// <summary>Hosts people pass through.</summary>
/// <param name="Hosts">Those listed, by name.</param>
/// <param name="Suggested">Those that look as if they should be, the most visits first.</param>
public sealed record PassingHostsAnswer(IReadOnlyList<PassingHostAnswer> Hosts, IReadOnlyList<SuggestedHost> Suggested);

/// <summary>A host people pass through.</summary>
/// <param name="AddedBy">Who listed it.</param>
/// <param name="AddedAt">When it was listed.</param>
public sealed record PassingHostAnswer(Guid Id, string Host, string AddedBy, DateTimeOffset AddedAt);

/// <summary>A host to be listed.</summary>
/// <param name="Host">The host, or an address on it.</param>
public sealed record NewPassingHost(string? Host);

/// <summary>What listing a host would change, or changed.</summary>
/// <param name="Visits">Visits that came from it; they are worked out again.</param>
public sealed record PassingHostEffect(string Host, long Visits);
