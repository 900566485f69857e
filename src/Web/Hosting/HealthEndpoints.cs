using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Whether the process lives, and whether it may be sent requests.</summary>
public static class HealthEndpoints
{
    public static void MapHealth(this IEndpointRouteBuilder app)
    {
        app.MapGet("/healthz", () => TypedResults.Ok(new Health("alive"))).WithTags("Health");
        app.MapGet("/readyz", ReadyAsync).WithTags("Health").Produces<Health>().Produces<Health>(StatusCodes.Status503ServiceUnavailable);
    }

    private static async Task<IResult> ReadyAsync(BeaconDb db, SlugTable slugs, CancellationToken cancel)
    {
        try
        {
            bool migrated = !(await db.Database.GetPendingMigrationsAsync(cancel)).Any();
            return migrated && slugs.IsCurrent
                ? TypedResults.Ok(new Health("ready"))
                : TypedResults.Json(new Health("not ready: " + (migrated ? "short links are being read" : "the database is being set up")), statusCode: StatusCodes.Status503ServiceUnavailable);
        }
        catch (Exception failure) when (failure is Npgsql.NpgsqlException or TimeoutException or InvalidOperationException)
        {
            return TypedResults.Json(new Health("not ready: the database can't be reached"), statusCode: StatusCodes.Status503ServiceUnavailable);
        }
    }
}

/// <summary>How the process is.</summary>
public sealed record Health(string State);
