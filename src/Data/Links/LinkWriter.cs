using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>Stores composed links with their short links and endings: all of them or none.</summary>
public sealed class LinkWriter(BeaconDb db, IKnownSlugs slugs, TimeProvider clock)
{
    private const int MostTries = 4;
    private const int AtOnce = 200;
    private const int AtOnceUnwatched = 1_000;
    private const int FewestForCopy = 50;
    private const string Savepoint = "links";

    /// <summary>Stores every ready link among those given; within a transaction of the caller's, all of them or none.</summary>
    /// <param name="links">Composed links.</param>
    /// <param name="who">Name of the person or key.</param>
    /// <param name="cancel">Gives up before the transaction is committed.</param>
    /// <param name="stored">Told which links are stored so far, each time some more are; null where only the whole matters.</param>
    /// <returns>The stored links by their place in <paramref name="links"/>; refused where a chosen slug or domain can't be had, or an ending can't be taken.</returns>
    public async Task<Outcome<Dictionary<int, StoredLink>>> SaveAsync(
        IReadOnlyList<PreparedLink> links,
        string who,
        CancellationToken cancel,
        Func<int, Task>? stored = null
    )
    {
        var saved = new Dictionary<int, StoredLink>();
        var refusal = await StoreAllAsync(
            links,
            who,
            stored is null ? AtOnceUnwatched : AtOnce,
            async (some, domain) =>
            {
                foreach (var (place, link) in some)
                {
                    saved[place] = new StoredLink(links[place], link, domain.Of(links[place]));
                }

                await (stored?.Invoke(saved.Count) ?? Task.CompletedTask);
            },
            cancel
        );
        return refusal is not null ? refusal : saved;
    }

    /// <summary>The same, for many at once where only their ids are wanted.</summary>
    /// <returns>Ids by place in <paramref name="links"/>.</returns>
    public async Task<Outcome<Dictionary<int, Guid>>> SaveQuietlyAsync(
        IReadOnlyList<PreparedLink> links,
        string who,
        CancellationToken cancel
    )
    {
        var ids = new Dictionary<int, Guid>(links.Count);
        var refusal = await StoreAllAsync(
            links,
            who,
            AtOnceUnwatched,
            (some, _) =>
            {
                foreach (var (place, link) in some)
                {
                    ids[place] = link.Id;
                }

                return Task.CompletedTask;
            },
            cancel
        );
        return refusal is not null ? refusal : ids;
    }

    private async Task<Refusal?> StoreAllAsync(
        IReadOnlyList<PreparedLink> links,
        string who,
        int atOnce,
        Func<Dictionary<int, Link>, ShortDomainChoice, Task> stored,
        CancellationToken cancel
    )
    {
        var domains = await ShortDomainChoice.ReadAsync(db, cancel);
        if (links.Where(l => l.Composed.Ready).Select(domains.WhyNot).FirstOrDefault(w => w is not null) is { } unknown)
        {
            return unknown;
        }

        foreach (int[] places in Enumerable.Range(0, links.Count).Where(i => links[i].Composed.Ready).Chunk(atOnce))
        {
            var some = await SaveSomeAsync(links, places, who, domains, cancel);
            if (some.IsRefused)
            {
                return some.Refusal;
            }

            await stored(some.Value, domains);
        }

        return null;
    }

    private async Task<Outcome<Dictionary<int, Link>>> SaveSomeAsync(
        IReadOnlyList<PreparedLink> worked,
        int[] places,
        string who,
        ShortDomainChoice domain,
        CancellationToken cancel
    )
    {
        List<PreparedLink> some = [.. places.Select(p => worked[p])];
        var used = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var made = places.ToDictionary(p => p, p => Make(worked[p], who, domain.Of(worked[p]), used));
        for (int attempt = 1; ; attempt++)
        {
            await AskForHostsAsync(some, who, cancel);
            await KeepSealedAsync(made.Values, some[0].Convention.Settings, cancel);
            try
            {
                await StoreAsync([.. made.Values], cancel);

                // What is stored need not be watched any longer; a long run would slow down with every step.
                db.ChangeTracker.Clear();
                return made;
            }
            catch (Exception clash) when (IsClash(clash) && attempt < MostTries)
            {
                db.ChangeTracker.Clear();
                if (await WhyTakenAsync(worked, domain, cancel) is { } taken)
                {
                    return taken;
                }

                await MakeOtherSlugsAsync(made.Values, domain, used, cancel);
            }
        }
    }

    /// <summary>Slugs that somebody else took in the meantime are made again, the others kept: among many, one that clashes is to be expected.</summary>
    private async Task MakeOtherSlugsAsync(
        IReadOnlyCollection<Link> made,
        ShortDomainChoice domain,
        HashSet<string> used,
        CancellationToken cancel
    )
    {
        foreach (var wanted in made.SelectMany(l => l.ShortLinks).GroupBy(s => s.ShortDomainId))
        {
            var slugs = wanted.Select(s => s.Slug).ToList();
            var taken = (
                await db
                    .ShortLinks.IgnoreQueryFilters()
                    .Where(s => s.ShortDomainId == wanted.Key && slugs.Contains(s.Slug))
                    .Select(s => s.Slug)
                    .ToListAsync(cancel)
            ).ToHashSet();
            foreach (var clashing in wanted.Where(s => taken.Contains(s.Slug)))
            {
                clashing.Slug = FreeSlug(domain.ById(wanted.Key), used);
            }
        }
    }

    /// <summary>A slug that is not known to be taken, nor given to another link of the same step.</summary>
    private string FreeSlug(ShortDomain domain, HashSet<string> used)
    {
        int length = SlugMaker.LengthFor(slugs.CountOn(domain.Host));
        while (true)
        {
            string slug = SlugMaker.Make(length);
            if (!slugs.IsTaken(domain.Host, slug) && used.Add(slug))
            {
                return slug;
            }
        }
    }

    /// <summary>A few are stored as objects; many by COPY, from a savepoint on, so that a clash costs only this step.</summary>
    private async Task StoreAsync(List<Link> links, CancellationToken cancel)
    {
        await SlugLock.TakeAsync(db, cancel);
        if (links.Count < FewestForCopy)
        {
            db.Links.AddRange(links);
            await db.SaveChangesAsync(cancel);
            return;
        }

        var ambient = db.Database.CurrentTransaction;
        await using var own = ambient is null ? await db.Database.BeginTransactionAsync(cancel) : null;
        var transaction = (ambient ?? own)!;
        await db.SaveChangesAsync(cancel); // hosts asked for, and codes of sealed links
        await transaction.CreateSavepointAsync(Savepoint, cancel);
        try
        {
            await LinkCopy.WriteAsync((NpgsqlConnection)db.Database.GetDbConnection(), db.CurrentWorkspaceId!.Value, links, cancel);
        }
        catch (PostgresException)
        {
            await transaction.RollbackToSavepointAsync(Savepoint, cancel);
            throw;
        }

        await transaction.ReleaseSavepointAsync(Savepoint, cancel);
        await (own?.CommitAsync(cancel) ?? Task.CompletedTask);
    }

    private Link Make(PreparedLink worked, string who, ShortDomain? domain, HashSet<string> used)
    {
        var composed = worked.Composed;
        var now = clock.GetUtcNow();
        var values = composed.Fields.Where(f => f.Value.Length > 0).ToDictionary(f => f.Key, f => f.Value);
        var link = new Link
        {
            Title = string.IsNullOrWhiteSpace(worked.Request.Title)
                ? LinkTitle.Default(
                    worked.Convention,
                    composed.Destination!,
                    worked.Campaign?.Name,
                    worked.Placement?.Name,
                    worked.Request.Fields ?? []
                )
                : worked.Request.Title.Trim(),
            Destination = composed.Page!,
            Url = composed.Tagged!.Url,
            Values = values,
            Page = composed.Destination!.Page,
            TagsKey = LinkKey.Of(values, worked.Convention.Settings.Live),
            Style = composed.Style,
            ConventionVersion = worked.Convention.Version,
            CampaignId = worked.Campaign?.Id,
            PlacementId = worked.Placement?.Id,
            CreatedBy = who,
            CreatedAt = now,
        };
        if (worked.Request.Shorten && domain is not null)
        {
            link.Carries = worked.Request.Carries;
            (link.EndsAt, link.Fallback, link.MostUses, link.UsesLeft) = (
                worked.Ending?.At,
                worked.Ending?.Fallback,
                worked.Ending?.Uses,
                worked.Ending?.Uses
            );
            link.ShortLinks = MakeShort(link, domain, worked.Request.Slug, worked.Request.CodeSlug, used);
            link.IsWaiting = !worked.Inputs.Facts.IsOwnOrApproved(composed.Destination.HostAndPort);
        }

        link.IsUnshortened = link.ShortLinks.Count == 0;
        return link;
    }

    /// <summary>Two short links for a link: one for texts, and one for its code.</summary>
    /// <param name="link">The link.</param>
    /// <param name="domain">Where they stand.</param>
    /// <param name="text">A slug for the one in texts; made up where it is null or empty.</param>
    /// <param name="code">A slug for the one in its code; made up where it is null or empty.</param>
    /// <param name="used">Slugs given to other links in the same step; these two are added.</param>
    public List<ShortLink> MakeShort(Link link, ShortDomain domain, string? text, string? code, HashSet<string> used)
    {
        var own = LinkSlugs.Of(text, code, () => FreeSlug(domain, used));
        return [Short(own.Text, ShortLinkUse.Text), Short(own.Code, ShortLinkUse.Code)];

        ShortLink Short(string slug, ShortLinkUse use) =>
            new()
            {
                ShortDomainId = domain.Id,
                Slug = slug,
                Use = use,
                Target = link.Url,
                CreatedAt = clock.GetUtcNow(),
            };
    }

    /// <summary>What codes of sealed links stand for; equal values share a code, so most may be there already.</summary>
    private async Task KeepSealedAsync(IReadOnlyCollection<Link> links, LinkSettings settings, CancellationToken cancel)
    {
        var codes = links
            .Where(l => l.Style == TagStyle.Sealed)
            .GroupBy(l => SealedCode.Of(l.Values, settings))
            .Where(g => g.Key.Length > 0)
            .ToDictionary(g => g.Key, g => g.First());
        if (codes.Count == 0)
        {
            return;
        }

        var wanted = codes.Keys.ToList();
        var known = await db.SealedLinks.Where(s => wanted.Contains(s.Code)).Select(s => s.Code).ToListAsync(cancel);
        db.SealedLinks.AddRange(
            codes
                .Where(c => !known.Contains(c.Key))
                .Select(c => new SealedLink
                {
                    Code = c.Key,
                    Values = c.Value.Values,
                    CreatedAt = c.Value.CreatedAt,
                })
        );
    }

    private async Task AskForHostsAsync(IReadOnlyList<PreparedLink> worked, string who, CancellationToken cancel)
    {
        var strange = worked
            .Where(w => w.Composed.Ready && !w.Inputs.Facts.IsOwnOrApproved(w.Composed.Destination!.HostAndPort))
            .Select(w => w.Composed.Destination!.HostAndPort)
            .Distinct()
            .ToList();
        if (strange.Count == 0)
        {
            return;
        }

        var asked = await db.ApprovedHosts.Where(h => strange.Contains(h.Host)).Select(h => h.Host).ToListAsync(cancel);
        db.ApprovedHosts.AddRange(
            strange
                .Except(asked)
                .Select(h => new ApprovedHost
                {
                    Host = h,
                    AskedBy = who,
                    AskedAt = clock.GetUtcNow(),
                })
        );
    }

    /// <summary>A made-up slug that clashed is simply made again; a chosen one is somebody else's.</summary>
    private async Task<Refusal?> WhyTakenAsync(IReadOnlyList<PreparedLink> links, ShortDomainChoice domain, CancellationToken cancel)
    {
        foreach (var onOne in links.Where(l => LinkSlugs.Chosen(l.Request).Any()).GroupBy(l => domain.Of(l)?.Id))
        {
            var chosen = onOne.SelectMany(l => LinkSlugs.Chosen(l.Request)).ToList();
            string? taken = chosen.GroupBy(s => s).FirstOrDefault(g => g.Count() > 1)?.Key
                ?? await db
                    .ShortLinks.IgnoreQueryFilters()
                    .Where(s => s.ShortDomainId == onOne.Key && chosen.Contains(s.Slug))
                    .Select(s => s.Slug)
                    .FirstOrDefaultAsync(cancel);
            if (taken is not null)
            {
                return Refusal.Conflict(
                    "slug-taken",
                    $"“{taken}” already belongs to another link; choose another slug, or leave it empty to have one generated."
                );
            }
        }

        return null;
    }

    /// <summary>A slug was taken, or somebody asked for the same host, in the same moment.</summary>
    private static bool IsClash(Exception clash) =>
        (clash as PostgresException ?? clash.InnerException)
            is PostgresException
            {
                SqlState: PostgresErrorCodes.UniqueViolation,
                TableName: "short_links" or "approved_hosts" or "sealed_links"
            };
}

/// <summary>A link that was stored, with the short domain it is on; null where it has no short link.</summary>
public sealed record StoredLink(PreparedLink Prepared, Link Link, ShortDomain? Domain);
