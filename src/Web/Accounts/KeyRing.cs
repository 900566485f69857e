using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Keys for other programs: made, shown once, and revoked.</summary>
public sealed class KeyRing(BeaconDb db, AuditLog auditLog, RunMode mode, TimeProvider clock)
{
    private const int LongestName = 100;
    private const int MostKeys = 200;
    private const int Octets = 24;
    private const int MostDays = 3_650;

    /// <summary>The workspace's keys, newest first; those of the demo are listed only there.</summary>
    public Task<List<KeyAnswer>> ListAsync(CancellationToken cancel) =>
        db
            .ApiKeys.Where(k => mode.IsDemo || !k.DemoOnly)
            .OrderByDescending(k => k.CreatedAt)
            .ThenByDescending(k => k.Id)
            .Select(k => new KeyAnswer(k.Id, k.Name, k.Role, k.DemoOnly, k.CreatedAt, k.RevokedAt, k.ExpiresAt, k.LastUsedAt))
            .ToListAsync(cancel);

    /// <summary>Makes a key. It is random enough that a plain hash keeps it safe (OWASP ASVS 2.4 is about passwords people choose).</summary>
    public async Task<Outcome<KeyMade>> MakeAsync(KeyRequest request, CancellationToken cancel)
    {
        if (TypedText.OrNull(request.Name) is not { } name || name.Length > LongestName)
        {
            return Refusal.Invalid("key-name", $"Say what the key is for, in at most {LongestName} characters.");
        }

        if (!Enum.TryParse<Role>(request.Role, ignoreCase: true, out var role) || !Enum.IsDefined(role))
        {
            return Refusal.Invalid("key-role", $"“{request.Role}” isn't a role; use shortener, measuring, viewer, editor or owner.");
        }

        if (request.Days is < 1 or > MostDays)
        {
            return Refusal.Invalid("key-days", $"A key expires after 1 to {MostDays:N0} days, or never; leave “days” out for never.");
        }

        if (await db.ApiKeys.CountAsync(k => k.RevokedAt == null, cancel) >= MostKeys)
        {
            return Refusal.Unacceptable("keys-many", $"A workspace has at most {MostKeys} keys; revoke one you no longer use.");
        }

        string secret = "pb_" + Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(Octets));
        var now = clock.GetUtcNow();
        var key = new ApiKey
        {
            Name = name,
            Role = role,
            Hash = ApiKey.HashOf(secret),
            CreatedAt = now,
            ExpiresAt = request.Days is { } days ? now.AddDays(days) : null,
        };
        db.ApiKeys.Add(key);
        auditLog.Add(
            "key",
            key.Id,
            null,
            new
            {
                key.Name,
                key.Role,
                key.ExpiresAt,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new KeyMade(new KeyAnswer(key.Id, key.Name, key.Role, key.DemoOnly, key.CreatedAt, null, key.ExpiresAt), secret);
    }

    /// <summary>Revokes a key at once.</summary>
    public async Task<bool> RevokeAsync(Guid id, CancellationToken cancel)
    {
        if (await db.ApiKeys.SingleOrDefaultAsync(k => k.Id == id, cancel) is not { } key)
        {
            return false;
        }

        if (key.RevokedAt is null)
        {
            key.RevokedAt = clock.GetUtcNow();
            auditLog.Add("key", id, new { key.Name, key.Role }, null);
            await db.SaveChangesAsync(cancel);
        }

        return true;
    }
}
