using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Where a link's short links lead: another page, a pause, an end. Each change is kept, and heard of by every process within a moment.</summary>
public sealed class LinkRoutes(BeaconDb db, LinkComposition composition, ConventionReader conventions, WorkspaceReader workspaces, AuditLog auditLog, TimeProvider clock)
{
    /// <summary>The name of such entries in auditLog.</summary>
    public const string What = "link-route";

    private static readonly JsonSerializerOptions Kept = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter() } };

    private const int MostHistory = 200;
    private const int MostTurns = 20;
    private const int MostUses = 1_000_000_000;

    /// <summary>Where they lead; null when there is no such link, or it has no short links.</summary>
    public async Task<RouteAnswer?> ReadAsync(Guid id, CancellationToken cancel)
    {
        if (await db.Links.AsNoTracking().Include(l => l.ShortLinks).SingleOrDefaultAsync(l => l.Id == id, cancel) is not { ShortLinks: [var first, ..] } link)
        {
            return null;
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var changes = await db.ChangeLog.AsNoTracking().Where(c => c.ThingId == id && c.What == What).OrderByDescending(c => c.At).Take(MostHistory).ToListAsync(cancel);
        return new RouteAnswer(
            link.LeadsTo ?? link.Destination,
            first.Target,
            LinkStates.Of(retired: false, shortened: true, link.IsWaiting, link.Paused, link.EndsAt, link.UsesLeft, clock.GetUtcNow()),
            link.Paused, link.EndsAt, link.EndsAt is { } end ? WorkspaceMoment.Write(end, workspace.TimeZone) : null, link.Fallback, link.MostUses, link.UsesLeft,
            [.. RedirectRule.Read(link.Turns).Select(t => new RedirectRuleText(t.LeadsTo, Written(t.From, workspace.TimeZone), Written(t.Until, workspace.TimeZone), t.Device))],
            link.Permanent, link.WithoutTags, link.Carries, workspace.TimeZone, link.RouteRevision,
            [.. changes.Select(c => new RouteEntry(c.At, c.Who, SettingsOf(c.Before!), SettingsOf(c.After!)))]);
    }

    /// <summary>The links with the endings that were asked for, to be stored with them. Each different ending is judged once, however many links have it.</summary>
    /// <exception cref="RefusedException">An ending can't be taken as it is.</exception>
    public async Task<IReadOnlyList<WorkedLink>> WithEndingsAsync(IReadOnlyList<WorkedLink> worked, CancellationToken cancel)
    {
        if (worked.All(w => w.Request.Ending is null))
        {
            return worked;
        }

        if (worked.Any(w => w.Request is { Ending: not null, Shorten: false }))
        {
            throw new RefusedException(Refusal.Of(
                StatusCodes.Status422UnprocessableEntity, "ending-without-short-link", "Only a short link can end; create one, or leave out the ending."));
        }

        string zone = (await workspaces.ReadAsync(cancel)).TimeZone;
        var settled = worked.Select(w => w.Request.Ending).OfType<Ending>().Distinct().ToDictionary(e => e, e => Settled(e, worked[0].Facts, zone));
        return [.. worked.Select(w => w.Request.Ending is { } ending ? w with { Ending = settled[ending] } : w)];
    }

    private static SettledEnding Settled(Ending ending, LinkFacts facts, string zone)
    {
        var refusal = WhyNot(ending.At, ending.Uses, ending.Fallback, facts, zone, out var at, out string? fallback);
        return refusal is null ? new SettledEnding(at, ending.Uses, fallback) : throw new RefusedException(refusal);
    }

    /// <summary>Why an ending can't be taken as it is; null where it can.</summary>
    private static ProblemHttpResult? WhyNot(string? endsAt, int? uses, string? fallback, LinkFacts facts, string zone, out DateTimeOffset? at, out string? fallbackUrl)
    {
        (at, fallbackUrl) = (null, null);
        if (TypedText.OrNull(fallback) is { } asked)
        {
            var (page, wrong) = Accepted(asked, "fallback", facts);
            if (page is null)
            {
                return wrong;
            }

            fallbackUrl = TagWriter.WriteBare(page);
        }

        return !TryReadMoment(endsAt, zone, out at, out var refusal) ? refusal
            : uses is < 1 or > MostUses ? Refusal.Of(StatusCodes.Status400BadRequest, "uses-refused", $"A link ends after 1 to {MostUses:N0} uses.")
            : null;
    }

    /// <summary>Changes it.</summary>
    public async Task<ProblemHttpResult?> ChangeAsync(Guid id, RouteChange change, CancellationToken cancel)
    {
        // A link that is made together with its end is in a transaction already.
        await using var transaction = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(cancel) : null;

        // Changes of one link follow each other, so that history says what really stood before.
        await db.Database.ExecuteSqlAsync($"select 1 from links where id = {id} for no key update", cancel);
        if (await db.Links.Include(l => l.ShortLinks).SingleOrDefaultAsync(l => l.Id == id, cancel) is not { ShortLinks.Count: > 0 } link)
        {
            return Refusal.NotFound("short link");
        }

        if (change.Revision != link.RouteRevision)
        {
            return Refusal.Of(StatusCodes.Status409Conflict, "changed-meanwhile", "Somebody else changed this link’s destination meanwhile. Review their version, then make your change again.");
        }

        var facts = await composition.FactsAsync(cancel);
        var (page, refusal) = Accepted(change.LeadsTo ?? "", "page", facts);
        if (page is null)
        {
            return refusal;
        }

        string zone = (await workspaces.ReadAsync(cancel)).TimeZone;
        if (WhyNot(change.EndsAt, change.MostUses, change.Fallback, facts, zone, out var endsAt, out string? fallback) is { } problem)
        {
            return problem;
        }

        var convention = await conventions.ReadAsync(cancel);
        var (turns, unturned) = Turned(change, link, convention, facts, zone);
        if (turns is null)
        {
            return unturned;
        }

        if (change.Permanent && (change.Paused || endsAt is not null || change.MostUses is not null || turns.Count > 0))
        {
            return Refusal.Of(StatusCodes.Status422UnprocessableEntity, "permanent-changes", "Browsers remember a permanent redirect, so they would not see its end, its pause or its redirect rules; use the usual kind, or remove those.");
        }

        var before = Settings(link, zone);
        string leadsTo = page.Shown;
        string target = AddressOf(page, leadsTo == link.Destination, change.WithoutTags, link, convention);
        int used = link.MostUses - link.UsesLeft ?? 0;
        (link.LeadsTo, link.Paused, link.EndsAt, link.Fallback) = (leadsTo == link.Destination ? null : leadsTo, change.Paused, endsAt, fallback);
        (link.MostUses, link.UsesLeft) = (change.MostUses, change.MostUses is { } most ? Math.Max(0, most - used) : null);
        (link.Permanent, link.WithoutTags, link.Carries) = (change.Permanent, change.WithoutTags, change.Carries);
        link.IsWaiting = false; // All its pages were accepted just now.
        link.Turns = turns.Count == 0 ? null : JsonSerializer.Serialize(turns, JsonSerializerOptions.Web);
        var after = Settings(link, zone);
        if (JsonSerializer.Serialize(after, JsonSerializerOptions.Web) == JsonSerializer.Serialize(before, JsonSerializerOptions.Web))
        {
            return null;
        }

        link.RouteRevision++;
        link.RoutedAt = after.LeadsTo == before.LeadsTo ? link.RoutedAt : clock.GetUtcNow();
        auditLog.Add(What, id, before, after);
        await SlugLock.TakeAsync(db, cancel);
        await db.SaveChangesAsync(cancel);

        // Also where only a pause or an end changes, so that whoever keeps the slugs hears of it.
        await db.ShortLinks.Where(s => s.LinkId == id).ExecuteUpdateAsync(s => s.SetProperty(x => x.Target, target), cancel);
        await (transaction?.CommitAsync(cancel) ?? Task.CompletedTask);
        return null;
    }

    /// <summary>Readies leading many links to one page.</summary>
    public async Task<(DestinationChange? Leader, ProblemHttpResult? Refusal)> ToPageAsync(string address, CancellationToken cancel)
    {
        var facts = await composition.FactsAsync(cancel);
        var (page, refusal) = Accepted(address, "page", facts);
        return page is null ? (null, refusal) : (Leader(page, await KnownAsync(facts, cancel)), null);
    }

    /// <summary>Readies taking back that links were led to another page, each where it still leads there.</summary>
    /// <returns>Takes it back for a link with its short links, by what history keeps of the change; false where the link has moved on.</returns>
    public async Task<Func<Link, ChangeLogEntry, bool>> BackAsync(CancellationToken cancel)
    {
        var known = await KnownAsync(await composition.FactsAsync(cancel), cancel);
        return (link, entry) => (link.LeadsTo ?? link.Destination) == SettingsOf(entry.After!).LeadsTo
            && DestinationReader.Read(SettingsOf(entry.Before!).LeadsTo).Destination is { } page
            && Leader(page, known).Lead(link, link.ShortLinks, null);
    }

    private async Task<Known> KnownAsync(LinkFacts facts, CancellationToken cancel) =>
        new(facts, await conventions.ReadAsync(cancel), (await workspaces.ReadAsync(cancel)).TimeZone);

    private DestinationChange Leader(Destination page, Known known)
    {
        var (facts, convention, zone) = known;
        return new DestinationChange(page.Shown, (link, shorts, change) =>
        {
            var before = Settings(link, zone);
            if (before.LeadsTo == page.Shown)
            {
                return false;
            }

            string target = AddressOf(page, page.Shown == link.Destination, link.WithoutTags, link, convention);
            (link.LeadsTo, link.RoutedAt) = (page.Shown == link.Destination ? null : page.Shown, clock.GetUtcNow());
            link.RouteRevision++;
            link.IsWaiting = LinkPages.Wait(facts, target, link.Fallback, link.Turns);
            foreach (var either in shorts)
            {
                either.Target = target;
            }

            auditLog.Add(What, link.Id, before, Settings(link, zone), change);
            return true;
        });
    }

    private static (Destination? Page, ProblemHttpResult? Refusal) Accepted(string address, string what, LinkFacts facts)
    {
        var reading = DestinationReader.Read(address);
        return reading.Destination is not { } page
            ? (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, $"{what}-refused", reading.Notices is [var first, ..] ? first.Message : $"“{address}” isn't a web address."))
            : facts.WhyRefused(page.HostAndPort) is { } refused
                ? (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, "host-refused", refused))
            : !facts.IsOwnOrApproved(page.HostAndPort)
                ? (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, "host-not-approved", $"{page.HostAndPort} is neither one of your sites nor approved; ask an owner to approve it first."))
                : (page, null);
    }

    /// <summary>The address of a page for this link; its first page keeps the address it was saved with.</summary>
    private static string AddressOf(Destination page, bool isFirst, bool withoutTags, Link link, Convention convention) =>
        withoutTags ? TagWriter.WriteBare(page)
        : isFirst ? link.Url
        : TagWriter.WriteAgain(convention, page, link.Values, link.Style).Url;

    private static (List<RedirectRule>? Turns, ProblemHttpResult? Refusal) Turned(RouteChange change, Link link, Convention convention, LinkFacts facts, string zone)
    {
        var turns = new List<RedirectRule>();
        if (change.Turns?.Count > MostTurns)
        {
            return (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, "turns-many", $"A short link has at most {MostTurns} redirect rules."));
        }

        foreach (var turn in change.Turns ?? [])
        {
            var (page, refusal) = Accepted(turn.LeadsTo ?? "", "page", facts);
            if (page is null)
            {
                return (null, refusal);
            }

            if (!TryReadMoment(turn.From, zone, out var from, out refusal) || !TryReadMoment(turn.Until, zone, out var until, out refusal))
            {
                return (null, refusal);
            }

            if (until <= from)
            {
                return (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, "turn-backwards", $"{page.Shown} would end before it begins; choose a later end."));
            }

            string? device = TypedText.OrNull(turn.Device)?.ToLowerInvariant();
            if (device is not (null or Device.Phone or Device.Tablet or Device.Computer))
            {
                return (null, Refusal.Of(StatusCodes.Status400BadRequest, "device-unknown", $"“{turn.Device}” isn't a kind of device; use phone, tablet or computer."));
            }

            turns.Add(new RedirectRule(page.Shown, from, until, device, AddressOf(page, page.Shown == link.Destination, change.WithoutTags, link, convention)));
        }

        return (turns, null);
    }

    private static bool TryReadMoment(string? text, string zone, out DateTimeOffset? moment, out ProblemHttpResult? refusal)
    {
        (moment, refusal) = (null, null);
        if (TypedText.OrNull(text) is not { } typed)
        {
            return true;
        }

        moment = WorkspaceMoment.Read(typed, zone);
        refusal = moment is null ? Refusal.Of(StatusCodes.Status400BadRequest, "end-unreadable", $"“{typed}” isn't a date and time; write it like 2026-12-24T18:00, in the workspace’s time zone.") : null;
        return moment is not null;
    }

    private static string? Written(DateTimeOffset? moment, string zone) => moment is { } at ? WorkspaceMoment.Write(at, zone) : null;

    private static RouteSettings Settings(Link link, string zone) => new(
        link.LeadsTo ?? link.Destination, link.Paused, link.EndsAt, link.Fallback, link.MostUses,
        link.Turns is null ? null : [.. RedirectRule.Read(link.Turns).Select(t => new RedirectRuleText(t.LeadsTo, Written(t.From, zone), Written(t.Until, zone), t.Device))], link.Permanent, link.WithoutTags, link.Carries);

    private static RouteSettings SettingsOf(string json) => JsonSerializer.Deserialize<RouteSettings>(json, Kept)!;

    /// <summary>What leading a link somewhere depends on, read once for many.</summary>
    private sealed record Known(LinkFacts Facts, Convention Convention, string Zone);
}
