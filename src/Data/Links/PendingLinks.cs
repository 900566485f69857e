using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>Short links that must not lead on: until an owner approves their host, and while it is on the list of those never allowed.</summary>
public sealed class PendingLinks(BeaconDb db, LinkInputsReader inputs)
{
    /// <summary>Lets every waiting short link go on whose pages are all on hosts that are one's own or approved, and not refused.</summary>
    /// <returns>How many began to work.</returns>
    public async Task<int> WakeAsync(CancellationToken cancel)
    {
        var facts = await inputs.FactsAsync(cancel);
        var waiting = await db
            .ShortLinks.Where(s => s.Link!.IsWaiting)
            .Select(s => new
            {
                s.LinkId,
                s.Target,
                s.Link!.Fallback,
                s.Link.Turns,
            })
            .ToListAsync(cancel);
        List<Guid> free =
        [
            .. waiting
                .GroupBy(w => w.LinkId)
                .Where(g => g.All(w => !LinkPages.Wait(facts, w.Target, w.Fallback, w.Turns)))
                .Select(g => g.Key),
        ];
        return await SetAsync(free, waits: false, cancel);
    }

    /// <summary>Stops every short link that leads to a host or below it, be it after its end or for some time only.</summary>
    public async Task StopAsync(string host, CancellationToken cancel) =>
        await SetAsync(await Leading(host).Select(s => s.LinkId).Distinct().ToListAsync(cancel), waits: true, cancel);

    /// <summary>How many short links lead to a host or below it, and the addresses of some.</summary>
    public async Task<(int Count, List<string> Sample)> LeadingToAsync(string host, int most, CancellationToken cancel)
    {
        int count = await Leading(host).CountAsync(cancel);
        var some =
            count == 0
                ? []
                : await Leading(host).OrderBy(s => s.Id).Take(most).Select(s => new { s.ShortDomain, s.Slug }).ToListAsync(cancel);
        return (count, [.. some.Select(s => s.ShortDomain!.UrlOf(s.Slug))]);
    }

    private async Task<int> SetAsync(List<Guid> links, bool waits, CancellationToken cancel)
    {
        await db.Links.Where(l => links.Contains(l.Id)).ExecuteUpdateAsync(s => s.SetProperty(l => l.IsWaiting, waits), cancel);

        // Written without a change, so that whoever keeps the slugs hears of it.
        return await db
            .ShortLinks.Where(s => links.Contains(s.LinkId))
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.Target, x => x.Target), cancel);
    }

    private IQueryable<ShortLink> Leading(string host)
    {
        // Any sign but letters and digits stands for itself behind a backslash, by PostgreSQL's "Regular Expression Escapes".
        string literal = string.Concat(host.Select(c => char.IsAsciiLetterOrDigit(c) ? $"{c}" : $"\\{c}"));
        string pattern = $"^https?://([^/?#]*\\.)?{literal}(:[0-9]+)?([/?#]|$)";
        string anywhere = $"\"https?://([^/?#\"]*\\.)?{literal}(:[0-9]+)?[/?#\"]";
        var links = db.Links.FromSql($"select * from links where fallback ~* {pattern} or turns::text ~* {anywhere}").Select(l => l.Id);
        return db.ShortLinks.Where(s =>
            !s.Link!.IsWaiting && (Regex.IsMatch(s.Target, pattern, RegexOptions.IgnoreCase) || links.Contains(s.LinkId))
        );
    }
}
