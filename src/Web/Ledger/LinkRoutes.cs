using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Where a link's short links lead: another page, a pause, an end. Each change is kept, and heard of by every process within a moment.</summary>
public sealed class LinkRoutes(BeaconDb db, LinkWorkshop workshop, ConventionReader conventions, WorkspaceReader workspaces, History history, TimeProvider clock)
{
    private const string What = "link-route";
    private const int MostHistory = 200;

    /// <summary>Where they lead; null when there is no such link, or it has no short links.</summary>
    public async Task<RouteAnswer?> ReadAsync(Guid id, CancellationToken cancel)
    {
        if (await db.Links.AsNoTracking().Include(l => l.ShortLinks).SingleOrDefaultAsync(l => l.Id == id, cancel) is not { ShortLinks: [var first, ..] } link)
        {
            return null;
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var changes = await db.ChangeLog.AsNoTracking().Where(c => c.ThingId == id && c.What == What).OrderByDescending(c => c.At).Take(MostHistory).ToListAsync(cancel);
        var (outcome, _) = new RouteConditions(link.Paused, link.EndsAt, link.Fallback).At(first.Target, clock.GetUtcNow());
        return new RouteAnswer(
            link.LeadsTo ?? link.Destination,
            first.Target,
            first.State == ShortLinkState.Waiting ? "waiting" : link.EndsAt <= clock.GetUtcNow() ? "ended" : outcome == RouteOutcome.Rests ? "paused" : "live",
            link.Paused, link.EndsAt, link.EndsAt is { } end ? WorkspaceMoment.Write(end, workspace.TimeZone) : null, link.Fallback, workspace.TimeZone, link.RouteRevision,
            [.. changes.Select(c => new RouteEntry(c.At, c.Who, SettingsOf(c.Before!), SettingsOf(c.After!)))]);
    }

    /// <summary>Changes it.</summary>
    public async Task<ProblemHttpResult?> ChangeAsync(Guid id, RouteChange change, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Changes of one link follow each other, so that history says what really stood before.
        await db.Database.ExecuteSqlAsync($"select 1 from links where id = {id} for update", cancel);
        if (await db.Links.Include(l => l.ShortLinks).SingleOrDefaultAsync(l => l.Id == id, cancel) is not { ShortLinks.Count: > 0 } link)
        {
            return Refusal.NotFound("short link");
        }

        if (change.Revision != link.RouteRevision)
        {
            return Refusal.Of(StatusCodes.Status409Conflict, "changed-meanwhile", "Somebody changed where this link leads in the meantime; look at their version, then change it again.");
        }

        var facts = await workshop.FactsAsync(cancel);
        var (page, refusal) = Accepted(change.LeadsTo ?? "", "page", facts);
        if (page is null)
        {
            return refusal;
        }

        string? fallback = null;
        if (TypedText.OrNull(change.Fallback) is { } asked)
        {
            var (other, wrong) = Accepted(asked, "fallback", facts);
            if (other is null)
            {
                return wrong;
            }

            fallback = LinkComposer.Compose(other, [], new LinkSettings()).Url;
        }

        DateTimeOffset? endsAt = null;
        if (TypedText.OrNull(change.EndsAt) is { } end)
        {
            endsAt = WorkspaceMoment.Read(end, (await workspaces.ReadAsync(cancel)).TimeZone);
            if (endsAt is null)
            {
                return Refusal.Of(StatusCodes.Status400BadRequest, "end-unreadable", $"“{end}” is no date and time; write it as 2026-12-24T18:00, in the workspace’s zone.");
            }
        }

        var before = Settings(link);
        string leadsTo = page.Shown;
        var convention = await conventions.ReadAsync(cancel);
        string target = leadsTo == link.Destination ? link.Url : LinkRetagger.Retag(convention, page, link.Values, link.Style).Url;
        (link.LeadsTo, link.Paused, link.EndsAt, link.Fallback) = (leadsTo == link.Destination ? null : leadsTo, change.Paused, endsAt, fallback);
        var after = Settings(link);
        if (after == before)
        {
            return null;
        }

        link.RouteRevision++;
        link.RoutedAt = after.LeadsTo == before.LeadsTo ? link.RoutedAt : clock.GetUtcNow();
        history.Add(What, id, before, after);
        await db.SaveChangesAsync(cancel);

        // Also where only a pause or an end changes, so that whoever keeps the slugs hears of it.
        await db.ShortLinks.Where(s => s.LinkId == id).ExecuteUpdateAsync(s => s.SetProperty(x => x.Target, target), cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    private static (Destination? Page, ProblemHttpResult? Refusal) Accepted(string address, string what, LinkFacts facts)
    {
        var reading = DestinationReader.Read(address);
        return reading.Destination is not { } page
            ? (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, $"{what}-refused", reading.Notices is [var first, ..] ? first.Message : $"“{address}” is no web address."))
            : !facts.IsOwnOrApproved(page.HostAndPort)
                ? (null, Refusal.Of(StatusCodes.Status422UnprocessableEntity, "host-not-approved", $"{page.HostAndPort} is neither one of your sites nor approved; have an owner approve it first, then lead people there."))
                : (page, null);
    }

    private static RouteSettings Settings(Link link) => new(link.LeadsTo ?? link.Destination, link.Paused, link.EndsAt, link.Fallback);

    private static RouteSettings SettingsOf(string json) => JsonSerializer.Deserialize<RouteSettings>(json, JsonSerializerOptions.Web)!;
}
