using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;
using PreciseBeacon.Data;
using PreciseBeacon.Data.ShortLinks;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Whether the process lives, and whether it may be sent requests.</summary>
public static class HealthEndpoints
{
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(1.5);

    public static void MapHealth(this IEndpointRouteBuilder app)
    {
        app.MapGet("/healthz", () => TypedResults.Ok(new Health("alive")))
            .WithName("TellWhetherAlive")
            .WithSummary("Tells that the process lives.")
            .For(Caller.Anybody)
            .WithTags("Health")
            .WithMetadata(new ProbeEndpoint());
        app.MapGet("/readyz", ReadyAsync)
            .WithName("TellWhetherReady")
            .WithSummary("Tells whether the process may be sent requests.")
            .For(Caller.Anybody)
            .WithTags("Health")
            .WithMetadata(new ProbeEndpoint())
            .Produces<Health>()
            .Produces<Health>(StatusCodes.Status503ServiceUnavailable);
    }

    private static async Task<IResult> ReadyAsync(
        NpgsqlDataSource database,
        DatabaseSetup setup,
        SlugTable slugs,
        IEnumerable<IReadiness> parts,
        CancellationToken cancel
    )
    {
        if (!setup.IsDone)
        {
            return NotYet("the database is being set up");
        }

        try
        {
            // A database that has stopped answering may keep its connections open, so it is not waited for.
            await BeaconDatabase.AskAsync(database).WaitAsync(LongestWait, cancel);
            return !slugs.IsCurrent ? NotYet("short links are being read")
                : parts.FirstOrDefault(p => p.WaitsFor is not null) is { } waiting ? NotYet(waiting.WaitsFor!)
                : TypedResults.Ok(new Health("ready"));
        }
        catch (Exception failure) when (failure is NpgsqlException or TimeoutException or InvalidOperationException)
        {
            return NotYet("the database can't be reached");
        }

        static JsonHttpResult<Health> NotYet(string why) =>
            TypedResults.Json(new Health($"not ready: {why}"), statusCode: StatusCodes.Status503ServiceUnavailable);
    }
}

/// <summary>A part without which the process can't do its work yet.</summary>
public interface IReadiness
{
    /// <summary>What it waits for, as the end of a sentence; null once it is ready.</summary>
    string? WaitsFor { get; }
}

/// <summary>How the process is.</summary>
public sealed record Health(string State);
