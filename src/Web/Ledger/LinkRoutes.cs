using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Where a link's short links lead: another page, a pause, an end. Each change is kept, and heard of by every process within a moment.</summary>
public sealed class LinkRoutes(
    BeaconDb db,
    LinkInputsReader inputs,
    ConventionReader conventions,
    WorkspaceReader workspaces,
    AuditLog auditLog,
    TimeProvider clock
)
{
    /// <summary>The name of such entries in auditLog.</summary>
    public const string What = "link-route";

    private static readonly JsonSerializerOptions Kept = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter() } };

    private const int MostHistory = 200;
    private const int MostTurns = 20;

    /// <summary>Where they lead; null when there is no such link, or it has no short links.</summary>
    public async Task<RouteAnswer?> ReadAsync(Guid id, CancellationToken cancel)
    {
        if (
            await db.Links.AsNoTracking().Include(l => l.ShortLinks).SingleOrDefaultAsync(l => l.Id == id, cancel)
            is not { ShortLinks: [var first, ..] } link
        )
        {
            return null;
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var changes = await db
            .ChangeLog.AsNoTracking()
            .Where(c => c.ThingId == id && c.What == What)
            .OrderByDescending(c => c.At)
            .Take(MostHistory)
            .ToListAsync(cancel);
        return new RouteAnswer(
            link.LeadsTo ?? link.Destination,
            first.Target,
            LinkStates.Of(retired: false, shortened: true, link.IsWaiting, link.Paused, link.EndsAt, link.UsesLeft, clock.GetUtcNow()),
            link.Paused,
            link.EndsAt,
            link.EndsAt is { } end ? WorkspaceMoment.Write(end, workspace.TimeZone) : null,
            link.Fallback,
            link.MostUses,
            link.UsesLeft,
            [
                .. RedirectRule
                    .Read(link.Turns)
                    .Select(t => new RedirectRuleText(
                        t.LeadsTo,
                        Written(t.From, workspace.TimeZone),
                        Written(t.Until, workspace.TimeZone),
                        t.Device
                    )),
            ],
            link.Permanent,
            link.WithoutTags,
            link.Carries,
            link.ClickIds,
            workspace.TimeZone,
            link.RouteRevision,
            [.. changes.Select(c => new RouteEntry(c.At, c.Who, SettingsOf(c.Before!), SettingsOf(c.After!)))]
        );
    }

    /// <summary>Changes it.</summary>
    public async Task<Refusal?> ChangeAsync(Guid id, RouteChange change, CancellationToken cancel)
    {
        // A link that is made together with its end is in a transaction already.
        await using var transaction = db.Database.CurrentTransaction is null ? await db.Database.BeginTransactionAsync(cancel) : null;

        // Changes of one link follow each other, so that history says what really stood before.
        await RowLock.LinkAsync(db, id, cancel);
        if (await db.Links.Include(l => l.ShortLinks).SingleOrDefaultAsync(l => l.Id == id, cancel) is not { ShortLinks.Count: > 0 } link)
        {
            return Refusal.NotFound("short link");
        }

        if (change.Revision != link.RouteRevision)
        {
            return Refusal.Conflict(
                "changed-meanwhile",
                "Somebody else changed this link’s destination meanwhile. Review their version, then make your change again."
            );
        }

        var facts = await inputs.FactsAsync(cancel);
        var (page, refusal) = RedirectPage.Accept(change.LeadsTo ?? "", "page", facts);
        if (page is null)
        {
            return refusal;
        }

        string zone = (await workspaces.ReadAsync(cancel)).TimeZone;
        var ending = LinkEnding.Settle(new Ending(change.EndsAt, change.MostUses, change.Fallback), facts, zone);
        if (ending.IsRefused)
        {
            return ending.Refusal;
        }

        var (endsAt, _, fallback) = ending.Value;

        var convention = await conventions.ReadAsync(cancel);
        var (turns, unturned) = Turned(change, link, convention, facts, zone);
        if (turns is null)
        {
            return unturned;
        }

        if (change is { Permanent: true, ClickIds: true })
        {
            return Refusal.Unacceptable(
                "permanent-click-ids",
                "Browsers remember a permanent redirect, so later clicks would carry the first one’s id; use the usual kind, or give clicks no id."
            );
        }

        if (change.Permanent && (change.Paused || endsAt is not null || change.MostUses is not null || turns.Count > 0))
        {
            return Refusal.Unacceptable(
                "permanent-changes",
                "Browsers remember a permanent redirect, so they would not see its end, its pause or its redirect rules; use the usual kind, or remove those."
            );
        }

        var before = Settings(link, zone);
        string leadsTo = page.Shown;
        string target = AddressOf(page, leadsTo == link.Destination, change.WithoutTags, link, convention);
        int used = link.MostUses - link.UsesLeft ?? 0;
        (link.LeadsTo, link.Paused, link.EndsAt, link.Fallback) = (
            leadsTo == link.Destination ? null : leadsTo,
            change.Paused,
            endsAt,
            fallback
        );
        (link.MostUses, link.UsesLeft) = (change.MostUses, change.MostUses is { } most ? Math.Max(0, most - used) : null);
        (link.Permanent, link.WithoutTags, link.Carries) = (change.Permanent, change.WithoutTags, change.Carries);
        link.ClickIds = change.ClickIds;
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
    public async Task<Outcome<DestinationChange>> ToPageAsync(string address, CancellationToken cancel)
    {
        var facts = await inputs.FactsAsync(cancel);
        var (page, refusal) = RedirectPage.Accept(address, "page", facts);
        return page is null ? refusal! : Leader(page, await KnownAsync(facts, cancel));
    }

    /// <summary>Readies taking back that links were led to another page, each where it still leads there.</summary>
    /// <returns>Takes it back for a link with its short links, by what history keeps of the change; false where the link has moved on.</returns>
    public async Task<Func<Link, ChangeLogEntry, bool>> BackAsync(CancellationToken cancel)
    {
        var known = await KnownAsync(await inputs.FactsAsync(cancel), cancel);
        return (link, entry) =>
            (link.LeadsTo ?? link.Destination) == SettingsOf(entry.After!).LeadsTo
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

    /// <summary>The address of a page for this link; its first page keeps the address it was saved with.</summary>
    private static string AddressOf(Destination page, bool isFirst, bool withoutTags, Link link, Convention convention) =>
        withoutTags ? TagWriter.WriteBare(page)
        : isFirst ? link.Url
        : TagWriter.WriteAgain(convention, page, link.Values, link.Style).Url;

    private static Outcome<List<RedirectRule>> Turned(RouteChange change, Link link, Convention convention, LinkFacts facts, string zone)
    {
        var turns = new List<RedirectRule>();
        if (change.Turns?.Count > MostTurns)
        {
            return Refusal.Unacceptable("turns-many", $"A short link has at most {MostTurns} redirect rules.");
        }

        foreach (var turn in change.Turns ?? [])
        {
            var (page, refusal) = RedirectPage.Accept(turn.LeadsTo ?? "", "page", facts);
            if (page is null)
            {
                return refusal!;
            }

            var (from, wrongFrom) = LinkEnding.ReadMoment(turn.From, zone);
            var (until, wrongUntil) = LinkEnding.ReadMoment(turn.Until, zone);
            if ((wrongFrom ?? wrongUntil) is { } unreadable)
            {
                return unreadable;
            }

            if (until <= from)
            {
                return Refusal.Unacceptable("turn-backwards", $"{page.Shown} would end before it begins; choose a later end.");
            }

            string? device = TypedText.OrNull(turn.Device)?.ToLowerInvariant();
            if (device is not (null or Device.Phone or Device.Tablet or Device.Computer))
            {
                return Refusal.Invalid("device-unknown", $"“{turn.Device}” isn't a kind of device; use phone, tablet or computer.");
            }

            turns.Add(
                new RedirectRule(
                    page.Shown,
                    from,
                    until,
                    device,
                    AddressOf(page, page.Shown == link.Destination, change.WithoutTags, link, convention)
                )
            );
        }

        return turns;
    }

    private static string? Written(DateTimeOffset? moment, string zone) => moment is { } at ? WorkspaceMoment.Write(at, zone) : null;

    private static RouteSettings Settings(Link link, string zone) =>
        new(
            link.LeadsTo ?? link.Destination,
            link.Paused,
            link.EndsAt,
            link.Fallback,
            link.MostUses,
            link.Turns is null
                ? null
                :
                [
                    .. RedirectRule
                        .Read(link.Turns)
                        .Select(t => new RedirectRuleText(t.LeadsTo, Written(t.From, zone), Written(t.Until, zone), t.Device)),
                ],
            link.Permanent,
            link.WithoutTags,
            link.Carries,
            link.ClickIds
        );

    private static RouteSettings SettingsOf(string json) => JsonSerializer.Deserialize<RouteSettings>(json, Kept)!;

    /// <summary>What leading a link somewhere depends on, read once for many.</summary>
    private sealed record Known(LinkFacts Facts, Convention Convention, string Zone);
}
