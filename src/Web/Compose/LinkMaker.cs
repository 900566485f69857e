using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Compose;

/// <summary>Stores composed links with their short links: all of them or none.</summary>
public sealed class LinkMaker(BeaconDb db, ShortDomains domains, SlugTable slugs, TimeProvider clock)
{
    private const int MostTries = 4;
    private const int AtOnce = 200;
    private const int AtOnceUnwatched = 1_000;
    private const int FewestForCopy = 50;
    private const string Savepoint = "links";

    /// <summary>Stores every ready link among those given; within a transaction of the caller's, all of them or none.</summary>
    /// <param name="worked">Composed links.</param>
    /// <param name="who">Name of the person or key.</param>
    /// <param name="cancel">Gives up before the transaction is committed.</param>
    /// <param name="stored">Told how many are stored so far, each time some more are.</param>
    /// <returns>The stored links, as answers say it, by their place in <paramref name="worked"/>.</returns>
    /// <exception cref="RefusedException">A chosen slug is taken.</exception>
    public async Task<IReadOnlyDictionary<int, SavedLink>> SaveAsync(
        IReadOnlyList<WorkedLink> worked, string who, CancellationToken cancel, Func<int, Task>? stored = null)
    {
        var saved = new Dictionary<int, SavedLink>();
        await StoreAllAsync(
            worked, who, stored is null ? AtOnceUnwatched : AtOnce,
            async (some, domain) =>
            {
                foreach (var (place, link) in some)
                {
                    saved[place] = SavedLink.Of(link, domain.Of(worked[place]), worked[place]);
                }

                await (stored?.Invoke(saved.Count) ?? Task.CompletedTask);
            },
            cancel);
        return saved;
    }

    /// <summary>The same, for many at once where only their ids are wanted.</summary>
    /// <returns>Ids by place in <paramref name="worked"/>.</returns>
    public async Task<IReadOnlyDictionary<int, Guid>> SaveQuietlyAsync(IReadOnlyList<WorkedLink> worked, string who, CancellationToken cancel)
    {
        var ids = new Dictionary<int, Guid>(worked.Count);
        await StoreAllAsync(
            worked, who, AtOnceUnwatched,
            (some, _) =>
            {
                foreach (var (place, link) in some)
                {
                    ids[place] = link.Id;
                }

                return Task.CompletedTask;
            },
            cancel);
        return ids;
    }

    private async Task StoreAllAsync(IReadOnlyList<WorkedLink> worked, string who, int atOnce, Func<Dictionary<int, Link>, ChosenDomains, Task> stored, CancellationToken cancel)
    {
        var domain = await domains.ChosenAsync(cancel);
        foreach (int[] places in Enumerable.Range(0, worked.Count).Where(i => worked[i].Composed.Ready).Chunk(atOnce))
        {
            await stored(await SaveSomeAsync(worked, places, who, domain, cancel), domain);
        }
    }

    private async Task<Dictionary<int, Link>> SaveSomeAsync(IReadOnlyList<WorkedLink> worked, int[] places, string who, ChosenDomains domain, CancellationToken cancel)
    {
        List<WorkedLink> some = [.. places.Select(p => worked[p])];
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
                await RefuseTakenAsync(worked, domain, cancel);
                await MakeOtherSlugsAsync(made.Values, domain, used, cancel);
            }
        }
    }

    /// <summary>Slugs that somebody else took in the meantime are made again, the others kept: among many, one that clashes is to be expected.</summary>
    private async Task MakeOtherSlugsAsync(IReadOnlyCollection<Link> made, ChosenDomains domain, HashSet<string> used, CancellationToken cancel)
    {
        foreach (var wanted in made.SelectMany(l => l.ShortLinks).GroupBy(s => s.ShortDomainId))
        {
            var slugs = wanted.Select(s => s.Slug).ToList();
            var taken = (await db.ShortLinks.IgnoreQueryFilters().Where(s => s.ShortDomainId == wanted.Key && slugs.Contains(s.Slug)).Select(s => s.Slug).ToListAsync(cancel)).ToHashSet();
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
            if (slugs.Domain(domain.Host)?.ContainsKey(slug) != true && used.Add(slug))
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

    private Link Make(WorkedLink worked, string who, ShortDomain? domain, HashSet<string> used)
    {
        var composed = worked.Composed;
        var now = clock.GetUtcNow();
        var values = composed.Fields.Where(f => f.Value.Length > 0).ToDictionary(f => f.Key, f => f.Value);
        var link = new Link
        {
            Title = string.IsNullOrWhiteSpace(worked.Request.Title) ? TitleOf(worked) : worked.Request.Title.Trim(),
            Destination = worked.Page!,
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
            (link.EndsAt, link.Fallback, link.MostUses, link.UsesLeft) = (worked.Ending?.At, worked.Ending?.Fallback, worked.Ending?.Uses, worked.Ending?.Uses);
            link.ShortLinks = MakeShort(link, domain, worked.Request.Slug, worked.Request.CodeSlug, used);
            link.IsWaiting = !worked.Facts.IsOwnOrApproved(composed.Destination.HostAndPort);
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
        return [Short(ChosenSlugs.Read(text) ?? FreeSlug(domain, used), ShortLinkUse.Text), Short(ChosenSlugs.Read(code) ?? FreeSlug(domain, used), ShortLinkUse.Code)];

        ShortLink Short(string slug, ShortLinkUse use) => new()
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
        var codes = links.Where(l => l.Style == TagStyle.Sealed)
            .GroupBy(l => SealedCode.Of(l.Values, settings))
            .Where(g => g.Key.Length > 0)
            .ToDictionary(g => g.Key, g => g.First());
        if (codes.Count == 0)
        {
            return;
        }

        var wanted = codes.Keys.ToList();
        var known = await db.SealedLinks.Where(s => wanted.Contains(s.Code)).Select(s => s.Code).ToListAsync(cancel);
        db.SealedLinks.AddRange(codes.Where(c => !known.Contains(c.Key)).Select(c => new SealedLink { Code = c.Key, Values = c.Value.Values, CreatedAt = c.Value.CreatedAt }));
    }

    /// <summary>Characters of a link's own words in its title.</summary>
    private const int LongestOwn = 60;

    private static string TitleOf(WorkedLink worked)
    {
        string page = worked.Composed.Destination!.Path.Trim('/');

        // Links of one placement to one page are told apart by what was given for each.
        string?[] telling = [worked.Convention.KeyOf(FieldMeaning.Content), worked.Convention.KeyOf(FieldMeaning.Term)];
        string? own = worked.Request.Fields?.Where(f => worked.Convention.Find(f.Key) is { } field && telling.Contains(field.Key))
            .Select(f => f.Value.Trim()).FirstOrDefault(v => v.Length is > 0 and <= LongestOwn);
        return string.Join(" · ", new[] { worked.Campaign?.Name, worked.Placement?.Name, page.Length == 0 ? worked.Composed.Destination.HostAndPort : page, own }
            .Where(p => !string.IsNullOrEmpty(p)));
    }

    private async Task AskForHostsAsync(IReadOnlyList<WorkedLink> worked, string who, CancellationToken cancel)
    {
        var strange = worked
            .Where(w => w.Composed.Ready && !w.Facts.IsOwnOrApproved(w.Composed.Destination!.HostAndPort))
            .Select(w => w.Composed.Destination!.HostAndPort)
            .Distinct()
            .ToList();
        if (strange.Count == 0)
        {
            return;
        }

        var asked = await db.ApprovedHosts.Where(h => strange.Contains(h.Host)).Select(h => h.Host).ToListAsync(cancel);
        db.ApprovedHosts.AddRange(strange.Except(asked).Select(h => new ApprovedHost { Host = h, AskedBy = who, AskedAt = clock.GetUtcNow() }));
    }

    /// <summary>A made-up slug that clashed is simply made again; a chosen one is somebody else's.</summary>
    private async Task RefuseTakenAsync(IReadOnlyList<WorkedLink> worked, ChosenDomains domain, CancellationToken cancel)
    {
        foreach (var onOne in worked.Where(w => ChosenSlugs.Of(w.Request).Any()).GroupBy(w => domain.Of(w)?.Id))
        {
            var chosen = onOne.SelectMany(w => ChosenSlugs.Of(w.Request)).ToList();
            if (chosen.Count != chosen.Distinct().Count())
            {
                throw SlugTaken(chosen.GroupBy(s => s).First(g => g.Count() > 1).Key);
            }

            string? taken = await db.ShortLinks.IgnoreQueryFilters()
                .Where(s => s.ShortDomainId == onOne.Key && chosen.Contains(s.Slug))
                .Select(s => s.Slug)
                .FirstOrDefaultAsync(cancel);
            if (taken is not null)
            {
                throw SlugTaken(taken);
            }
        }
    }

    private static RefusedException SlugTaken(string slug) => new(Refusal.Of(
        StatusCodes.Status409Conflict, "slug-taken", $"“{slug}” already belongs to another link; choose another slug, or leave it empty to have one generated."));

    /// <summary>A slug was taken, or somebody asked for the same host, in the same moment.</summary>
    private static bool IsClash(Exception clash) =>
        (clash as PostgresException ?? clash.InnerException) is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation, TableName: "short_links" or "approved_hosts" or "sealed_links" };
}
