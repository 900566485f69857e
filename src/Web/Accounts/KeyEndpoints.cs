using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Keys for other programs; for owners only.</summary>
public static class KeyEndpoints
{
    public static void MapKeys(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/keys").WithTags("Keys");
        group
            .MapGet("", async (KeyRing keys, CancellationToken cancel) => TypedResults.Ok(await keys.ListAsync(cancel)))
            .WithName("ListKeys")
            .WithSummary("Lists keys for other programs.")
            .For(Caller.Owner);
        group.MapPost("", MakeAsync).WithName("MakeKey").WithSummary("Makes a key; it is shown only once.").For(Caller.Owner);
        group.MapPost("/{id:guid}/revoke", RevokeAsync).WithName("RevokeKey").WithSummary("Revokes a key.").For(Caller.Owner);
    }

    private static async Task<Outcome<KeyMade>> MakeAsync(KeyRequest request, HttpContext context, KeyRing keys, CancellationToken cancel)
    {
        context.Response.Headers.CacheControl = "no-store";
        return await keys.MakeAsync(request, cancel);
    }

    private static async Task<Refusal?> RevokeAsync(Guid id, KeyRing keys, CancellationToken cancel) =>
        await keys.RevokeAsync(id, cancel) ? null : Refusal.NotFound("key");
}
