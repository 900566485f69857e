using System.Security.Claims;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Writes down who changed what; the entry is stored together with the change.</summary>
public sealed class AuditLog(BeaconDb db, TimeProvider clock, IHttpContextAccessor request)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    /// <summary>Name of the person or key that asks.</summary>
    public string Who => BeaconClaims.NameOf(request.HttpContext?.User ?? new ClaimsPrincipal());

    /// <summary>Adds an entry; <paramref name="before"/> is null for something new, <paramref name="after"/> for something gone; <paramref name="change"/> is shared by what is changed in one go.</summary>
    public void Add(string what, Guid thing, object? before, object? after, Guid? change = null) =>
        db.ChangeLog.Add(
            new ChangeLogEntry
            {
                At = clock.GetUtcNow(),
                Who = Who,
                What = what,
                ThingId = thing,
                ChangeId = change,
                Before = before is null ? null : JsonSerializer.Serialize(before, Json),
                After = after is null ? null : JsonSerializer.Serialize(after, Json),
            }
        );

    /// <summary>Who changed a thing last; null when nobody has.</summary>
    public Task<string?> LastAsync(Guid thing, CancellationToken cancel) =>
        db.ChangeLog.Where(c => c.ThingId == thing).OrderByDescending(c => c.At).Select(c => c.Who).FirstOrDefaultAsync(cancel);
}
