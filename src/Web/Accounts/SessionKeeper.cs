using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// People's sessions. A cookie only names one; whether it still holds is asked of the database with every request, so that
/// signing out ends it wherever the cookie was copied to (OWASP ASVS 4.0.3, 3.3.1 to 3.3.4).
/// </summary>
public sealed class SessionKeeper(BeaconDb db, SignInManager<AppUser> signIn, IHttpContextAccessor request, TimeProvider clock)
{
    /// <summary>A session nobody uses ends after this (ours; ASVS 3.3.2 asks for at most 12 hours of use).</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromHours(12);

    /// <summary>No session lasts longer, however much it is used (ours).</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(14);

    /// <summary>Use is written down at most this often; each time costs a write.</summary>
    private static readonly TimeSpan SeenEvery = TimeSpan.FromMinutes(5);

    private const int LongestUserAgent = 200;

    /// <summary>The session a request belongs to; null for none.</summary>
    public static Guid? Of(ClaimsPrincipal person) => Guid.TryParse(person.FindFirstValue(BeaconClaims.Session), out var id) ? id : null;

    /// <summary>Begins a session and hands its cookie out.</summary>
    public async Task BeginAsync(AppUser user, CancellationToken cancel)
    {
        var context = request.HttpContext!;
        string userAgent = Crawlers.Cut(context.Request.Headers.UserAgent.ToString().Replace("\0", "", StringComparison.Ordinal));
        var now = clock.GetUtcNow();
        var session = new UserSession
        {
            UserId = user.Id,
            UserAgent = userAgent.Length <= LongestUserAgent ? userAgent : userAgent[..LongestUserAgent],
            StartedAt = now,
            SeenAt = now,
        };
        db.UserSessions.Add(session);
        await db.SaveChangesAsync(cancel);
        await signIn.SignInWithClaimsAsync(user, new AuthenticationProperties(), [new Claim(BeaconClaims.Session, session.Id.ToString())]);
    }

    /// <summary>Ends the request's own session and takes its cookie back.</summary>
    public async Task EndOwnAsync(CancellationToken cancel)
    {
        if (Of(request.HttpContext!.User) is { } id)
        {
            await db.UserSessions.Where(s => s.Id == id).ExecuteDeleteAsync(cancel);
        }

        await signIn.SignOutAsync();
    }

    /// <summary>Ends one session of a person.</summary>
    /// <returns>False when they have no such session.</returns>
    public async Task<bool> EndAsync(Guid userId, Guid id, CancellationToken cancel) =>
        await db.UserSessions.Where(s => s.Id == id && s.UserId == userId).ExecuteDeleteAsync(cancel) > 0;

    /// <summary>Ends all sessions of a person but one.</summary>
    /// <returns>How many.</returns>
    public Task<int> EndOthersAsync(Guid userId, Guid? kept, CancellationToken cancel) =>
        db.UserSessions.Where(s => s.UserId == userId && s.Id != kept).ExecuteDeleteAsync(cancel);

    /// <summary>A person's sessions that hold, the one used last first.</summary>
    public async Task<IReadOnlyList<SessionAnswer>> ListAsync(Guid userId, Guid? own, CancellationToken cancel)
    {
        var (idleSince, begunSince) = Bounds(clock.GetUtcNow());
        var sessions = await db
            .UserSessions.AsNoTracking()
            .Where(s => s.UserId == userId && s.SeenAt > idleSince && s.StartedAt > begunSince)
            .OrderByDescending(s => s.SeenAt)
            .Take(200)
            .ToListAsync(cancel);
        return [.. sessions.Select(s => new SessionAnswer(s.Id, s.Id == own, Device.Of(s.UserAgent), s.UserAgent, s.StartedAt, s.SeenAt))];
    }

    /// <summary>The person behind a session that holds, with their role in their workspace; null when it holds no more.</summary>
    public async Task<Membership?> FindAsync(Guid id, Guid userId)
    {
        var now = clock.GetUtcNow();
        var (idleSince, begunSince) = Bounds(now);
        var found = await db
            .UserSessions.AsNoTracking()
            .Where(s => s.Id == id && s.UserId == userId && s.SeenAt > idleSince && s.StartedAt > begunSince)
            .SelectMany(s =>
                db.Members.IgnoreQueryFilters()
                    .Where(m => m.UserId == s.UserId)
                    .OrderBy(m => m.Id)
                    .Take(1)
                    .Select(m => new
                    {
                        s.SeenAt,
                        m.WorkspaceId,
                        m.Role,
                        m.User!.DisplayName,
                    })
            )
            .FirstOrDefaultAsync();
        if (found is null)
        {
            return null;
        }

        if (now - found.SeenAt > SeenEvery)
        {
            await db.UserSessions.Where(s => s.Id == id).ExecuteUpdateAsync(s => s.SetProperty(x => x.SeenAt, now));
        }

        return new Membership(found.WorkspaceId, found.Role, found.DisplayName);
    }

    private static (DateTimeOffset IdleSince, DateTimeOffset BegunSince) Bounds(DateTimeOffset now) => (now - Idle, now - Longest);
}

/// <summary>What a person is in a workspace.</summary>
public sealed record Membership(Guid WorkspaceId, Role Role, string Name);
