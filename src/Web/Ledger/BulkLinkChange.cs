using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Changes many links in one go, after saying what it would change, and takes that back again as a whole.</summary>
public sealed class BulkLinkChange(
    BeaconDb db,
    LinkRoutes routes,
    LinkInputsReader inputs,
    LinkWriter writer,
    AuditLog auditLog,
    TimeProvider clock
)
{
    /// <summary>Most links changed at once.</summary>
    public const int Most = 10_000;

    /// <summary>The name of entries about short links that were made later than their link.</summary>
    public const string Shortened = "link-shortened";

    private const int SampleSize = 3;

    /// <summary>Changes them, or only counts; history keeps for each what it was before.</summary>
    public async Task<Outcome<ManyLinksAnswer>> ChangeAsync(BulkLinkChangeRequest change, CancellationToken cancel)
    {
        List<Guid> ids = [.. (change.Links ?? []).Distinct()];
        if (ids.Count is 0 or > Most)
        {
            return Refusal.Invalid("links-count", $"Choose 1 to {Most:N0} links.");
        }

        int kinds =
            (change.Retire is null ? 0 : 1)
            + (change.Campaign is null ? 0 : 1)
            + (change.LeadsTo is null ? 0 : 1)
            + (change.Shorten ? 1 : 0)
            + (change.AddTopics is null && change.DropTopics is null ? 0 : 1);
        if (kinds != 1)
        {
            return Refusal.Invalid("change-missing", "Send one change: “retire”, “campaign”, “leadsTo”, “shorten”, or topics.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Locked in one order, so that two such changes wait for each other instead of standing in each other's way.
        await RowLock.LinksAsync(db, [.. ids], cancel);
        var links = await db.Links.Where(l => ids.Contains(l.Id)).OrderBy(l => l.CreatedAt).ThenBy(l => l.Id).ToListAsync(cancel);
        var work = new Work(Guid.CreateVersion7());
        var refusal =
            change.LeadsTo is { } page ? await LeadAsync(links, page, work, cancel)
            : change.Shorten ? await ShortenAsync(links, change.ShortDomain, work, cancel)
            : await FileAsync(links, change, work, cancel);
        if (refusal is not null)
        {
            return refusal;
        }

        if (work.Changed > 0 && !change.Count)
        {
            await SlugLock.TakeAsync(db, cancel);
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
        }

        return new ManyLinksAnswer(
            work.Changed,
            work.Changed == 0 || change.Count ? null : work.Id,
            [.. work.Left.Select(l => new LeftLinks(l.Key, l.Value))],
            work.Sample
        );
    }

    /// <summary>Makes every link of a change what it was before; what was changed again since then stays.</summary>
    /// <returns>How many; null when there is no such change.</returns>
    public async Task<int?> UndoAsync(Guid undo, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var entries = await db.ChangeLog.AsNoTracking().Where(c => c.ChangeId == undo).OrderBy(c => c.ThingId).ToListAsync(cancel);
        if (entries.Count == 0)
        {
            return null;
        }

        List<Guid> ids = [.. entries.Select(e => e.ThingId)];
        await RowLock.LinksAsync(db, [.. ids], cancel);
        var links = await db
            .Links.Include(l => l.ShortLinks)
            .Include(l => l.Campaign)
            .Where(l => ids.Contains(l.Id))
            .ToDictionaryAsync(l => l.Id, cancel);
        var leadBack = await routes.BackAsync(cancel);
        int changed = 0;
        foreach (var entry in entries)
        {
            changed += entry.What switch
            {
                LinkMetadata.What => Refile(links[entry.ThingId], Read<LinkMetadata>(entry.Before!), Read<LinkMetadata>(entry.After!)),
                Shortened => Unshorten(links[entry.ThingId]),
                _ => leadBack(links[entry.ThingId], entry),
            }
                ? 1
                : 0;
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return changed;
    }

    /// <summary>Campaign, topics, putting away: what no address says.</summary>
    private async Task<Refusal?> FileAsync(List<Link> links, BulkLinkChangeRequest change, Work work, CancellationToken cancel)
    {
        var campaigns = await db.Campaigns.Select(c => new { c.Id, c.Name }).ToDictionaryAsync(c => c.Id, c => c.Name, cancel);
        if (change.Campaign is { } wanted && !campaigns.ContainsKey(wanted))
        {
            return Refusal.NotFound("campaign");
        }

        string[] added = Topics.Read(change.AddTopics ?? [], out string? problem);
        string[] dropped = Topics.Read(change.DropTopics ?? [], out string? other);
        if ((problem ?? other) is { } wrong)
        {
            return Refusal.Unacceptable("topics-refused", wrong);
        }

        var now = clock.GetUtcNow();
        foreach (var link in links)
        {
            var before = LinkMetadata.Of(link, NameOf(link.CampaignId));
            string[] topics = Topics.Read([.. link.Topics.Except(dropped), .. added], out problem);
            if (problem is not null)
            {
                work.Leave(problem);
                continue;
            }

            link.Topics = topics.SequenceEqual(link.Topics) ? link.Topics : topics;
            link.CampaignId = change.Campaign ?? link.CampaignId;
            link.RetiredAt = change.Retire switch
            {
                true => link.RetiredAt ?? now,
                false => null,
                _ => link.RetiredAt,
            };
            if (!db.Entry(link).Properties.Any(p => p.IsModified))
            {
                work.Leave("Already so");
                continue;
            }

            var after = LinkMetadata.Of(link, NameOf(link.CampaignId));
            auditLog.Add(LinkMetadata.What, link.Id, before, after, work.Id);
            work.Say(link, SaysOf(before, change), SaysOf(after, change));
        }

        return null;

        string? NameOf(Guid? id) => id is { } known ? campaigns.GetValueOrDefault(known) : null;
    }

    private static string SaysOf(LinkMetadata filing, BulkLinkChangeRequest change) =>
        change.Campaign is not null ? filing.Campaign ?? "no campaign"
        : change.Retire is not null ? (filing.RetiredAt is null ? "in the Ledger" : "archived")
        : filing.Topics.Count == 0 ? "no topics"
        : string.Join(", ", filing.Topics);

    /// <summary>Another page for their short links; each keeps its own tags.</summary>
    private async Task<Refusal?> LeadAsync(List<Link> links, string page, Work work, CancellationToken cancel)
    {
        var (leader, refusal) = await routes.ToPageAsync(page, cancel);
        if (leader is null)
        {
            return refusal;
        }

        List<Guid> ids = [.. links.Select(l => l.Id)];
        var shorts = (await db.ShortLinks.Where(s => ids.Contains(s.LinkId)).ToListAsync(cancel)).ToLookup(s => s.LinkId);
        foreach (var link in links)
        {
            var own = shorts[link.Id].ToList();
            if (own.Count == 0)
            {
                work.Leave("They have no short link");
                continue;
            }

            string before = link.LeadsTo ?? link.Destination;
            if (!leader.Lead(link, own, work.Id))
            {
                work.Leave("They already open this page");
                continue;
            }

            work.Say(link, before, leader.Page);
        }

        return null;
    }

    /// <summary>Short links for those that have none.</summary>
    private async Task<Refusal?> ShortenAsync(List<Link> links, string? on, Work work, CancellationToken cancel)
    {
        if ((await ShortDomainChoice.ReadAsync(db, cancel)).Find(on) is not { } domain)
        {
            return Refusal.Conflict("domain-missing", "No short domain of this name leads here; ask an owner to add and check it.");
        }

        var facts = await inputs.FactsAsync(cancel);
        List<Guid> ids = [.. links.Select(l => l.Id)];
        var shortened = (await db.ShortLinks.Where(s => ids.Contains(s.LinkId)).Select(s => s.LinkId).ToListAsync(cancel)).ToHashSet();
        var used = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var link in links)
        {
            if (shortened.Contains(link.Id))
            {
                work.Leave("They already have short links");
                continue;
            }

            var made = writer.MakeShort(link, domain, null, null, used);
            made.ForEach(s => s.LinkId = link.Id);
            db.ShortLinks.AddRange(made);
            link.IsUnshortened = false;
            link.IsWaiting = LinkPages.Wait(facts, link.Url, null, null);
            auditLog.Add(Shortened, link.Id, null, new { Text = domain.UrlOf(made[0].Slug), Code = domain.UrlOf(made[1].Slug) }, work.Id);
            work.Say(link, "no short link", $"{domain.Host}/{new string('·', made[0].Slug.Length)}");
        }

        return null;
    }

    /// <summary>Puts back what the change touched, where it still stands as the change left it.</summary>
    private bool Refile(Link link, LinkMetadata before, LinkMetadata after)
    {
        var now = LinkMetadata.Of(link, link.Campaign?.Name);
        link.CampaignId =
            before.CampaignId != after.CampaignId && link.CampaignId == after.CampaignId ? before.CampaignId : link.CampaignId;
        link.RetiredAt = before.RetiredAt != after.RetiredAt ? before.RetiredAt : link.RetiredAt;
        link.Topics =
            !before.Topics.SequenceEqual(after.Topics) && link.Topics.SequenceEqual(after.Topics) ? [.. before.Topics] : link.Topics;
        if (!db.Entry(link).Properties.Any(p => p.IsModified))
        {
            return false;
        }

        auditLog.Add(
            LinkMetadata.What,
            link.Id,
            now,
            LinkMetadata.Of(link, link.CampaignId == before.CampaignId ? before.Campaign : now.Campaign)
        );
        return true;
    }

    /// <summary>Short links nobody has used or led elsewhere are taken away again; one that was used may stand somewhere already.</summary>
    private bool Unshorten(Link link)
    {
        if (link.ShortLinks.Count == 0 || link.Uses > 0 || link.RouteRevision > 0)
        {
            return false;
        }

        auditLog.Add(Shortened, link.Id, new { Text = link.ShortLinks[0].Slug }, null);
        db.ShortLinks.RemoveRange(link.ShortLinks);
        (link.IsUnshortened, link.IsWaiting) = (true, false);
        return true;
    }

    private static T Read<T>(string json) => JsonSerializer.Deserialize<T>(json, JsonSerializerOptions.Web)!;

    /// <summary>What a change comes to, as it goes through the links.</summary>
    private sealed record Work(Guid Id)
    {
        public int Changed { get; private set; }

        public Dictionary<string, int> Left { get; } = [];

        public List<ChangedLink> Sample { get; } = [];

        public void Leave(string why) => Left[why] = Left.GetValueOrDefault(why) + 1;

        public void Say(Link link, string before, string after)
        {
            Changed++;
            if (Sample.Count < SampleSize)
            {
                Sample.Add(new ChangedLink(link.Title ?? link.Url, before, after));
            }
        }
    }
}
