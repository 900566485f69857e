using System.Net;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Traffic;

/// <summary>
/// Keeps an event before its answer goes out: in the spool; with the spool full, straight in the database; and when
/// both are gone the visitor is still served and the loss is counted. The address is hashed here and goes no further.
/// </summary>
public sealed class EventRecorder(
    SaltBook salts,
    SpoolWorker spools,
    EventIds ids,
    Countries countries,
    TownPoints points,
    TimeProvider clock
)
{
    /// <summary>Keeps a hit on a short link.</summary>
    public ValueTask KeepHitAsync(HttpContext context, SlugEntry entry, HitFlags flags, string? address = null, Guid? clickId = null)
    {
        var hit = HitOf(context, entry, flags, address, clickId);
        return EventRecord.TryAppend(spools.Own, hit)
            ? ValueTask.CompletedTask
            : new ValueTask(spools.KeepStraightAsync(new RawEvents { Hits = { hit } }, entry.WorkspaceId, hit.At));
    }

    /// <summary>The hit as it would be kept.</summary>
    public RawHit HitOf(HttpContext context, SlugEntry entry, HitFlags flags, string? address = null, Guid? clickId = null)
    {
        var now = clock.GetUtcNow();
        string userAgent = Crawlers.Cut(context.Request.Headers.UserAgent.ToString());
        var (visitor, earlier) = VisitorOf(entry.WorkspaceId, now, context.Connection.RemoteIpAddress, userAgent);
        var where = countries.WhereIs(context.Connection.RemoteIpAddress);
        return new RawHit(
            ids.Next(now),
            entry.WorkspaceId,
            now,
            entry.ShortLinkId,
            visitor,
            earlier,
            flags,
            userAgent,
            PrivateAddress.Of(Cut(context.Request.Headers.Referer.ToString(), EventRecord.LongestReferrer)),
            where.Country,
            where.Region,
            where.City,
            address is null ? entry.PageKey : PageKey.OfAddress(address),
            RawHit.TypedOf(context.Request.QueryString.Value ?? ""),
            clickId
        );
    }

    /// <summary>The day it is where a workspace is.</summary>
    public DateOnly DayOf(Guid workspaceId) => salts.At(workspaceId, clock.GetUtcNow()).Day;

    /// <summary>Keeps what a page reported.</summary>
    /// <param name="item">The event; its id, time and visitor are set here.</param>
    /// <param name="address">The client's network address.</param>
    /// <param name="siteVisitor">The visitor by the id the site keeps itself, or null.</param>
    public ValueTask KeepPageEventAsync(RawPageEvent item, IPAddress? address, Guid? siteVisitor)
    {
        var now = clock.GetUtcNow();
        var (ofDay, earlier) = VisitorOf(item.WorkspaceId, now, address, item.UserAgent);
        var where = countries.WhereIs(address);
        points.Learn(where, address);
        var kept = item with
        {
            Id = ids.Next(now),
            Country = where.Country,
            Region = where.Region,
            City = where.City,
            At = now,
            Visitor = siteVisitor ?? ofDay,
            EarlierVisitor = siteVisitor is null ? earlier : null,
            DayVisitor = siteVisitor is null ? null : ofDay,
            HasId = siteVisitor is not null,
        };
        return EventRecord.TryAppend(spools.Own, kept)
            ? ValueTask.CompletedTask
            : new ValueTask(spools.KeepStraightAsync(new RawEvents { PageEvents = { kept } }, item.WorkspaceId, now));
    }

    private (Guid Visitor, Guid? Earlier) VisitorOf(Guid workspaceId, DateTimeOffset now, IPAddress? address, string userAgent)
    {
        Span<byte> octets = stackalloc byte[16];
        int length = 0;
        address?.TryWriteBytes(octets, out length);
        var day = salts.At(workspaceId, now);
        return (
            VisitorHash.OfAddress(day.Salt, workspaceId, octets[..length], userAgent),
            day.Yesterday is null ? null : VisitorHash.OfAddress(day.Yesterday, workspaceId, octets[..length], userAgent)
        );
    }

    private static string Cut(string text, int most) => text.Length <= most ? text : text[..most];
}
