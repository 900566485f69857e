using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Tells open pages that traffic changed, so that they need not ask again and again.</summary>
public static class LiveEndpoints
{
    /// <summary>The least time between two events, however much arrives.</summary>
    private static readonly TimeSpan Pace = TimeSpan.FromSeconds(1);

    /// <summary>How often something is sent though nothing happened, so that no proxy takes the connection for dead.</summary>
    private static readonly TimeSpan Quiet = TimeSpan.FromSeconds(20);

    /// <summary>After so long the stream ends and browsers ask for it anew, so that whoever was signed out hears no more.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(5);

    private const string Changed = "changed";
    private const string Still = "still";

    public static void MapLive(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/live", Listen)
            .WithTags("Arrivals")
            .WithName("ListenToTraffic")
            .WithSummary("Streams an event each time clicks or visits changed, at most one a second.")
            .Produces(StatusCodes.Status200OK, contentType: "text/event-stream")
            .For(Caller.Readers);

    private static ServerSentEventsResult<string> Listen(
        BeaconDb db,
        LiveTraffic live,
        IHostApplicationLifetime lifetime,
        CancellationToken cancel
    ) => TypedResults.ServerSentEvents(EventsAsync(db.CurrentWorkspaceId!.Value, live, lifetime.ApplicationStopping, cancel));

    private static async IAsyncEnumerable<SseItem<string>> EventsAsync(
        Guid workspaceId,
        LiveTraffic live,
        CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(stopping, cancel);
        ends.CancelAfter(Longest);
        using var listener = live.Listen(workspaceId);
        yield return new SseItem<string>("", Still);
        while (!ends.IsCancellationRequested)
        {
            bool told = await ToldAsync(listener, ends.Token);
            if (ends.IsCancellationRequested)
            {
                yield break;
            }

            yield return new SseItem<string>("", told ? Changed : Still);
            await Task.Delay(Pace, ends.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    private static async Task<bool> ToldAsync(LiveTraffic.Listener listener, CancellationToken ends)
    {
        using var quiet = CancellationTokenSource.CreateLinkedTokenSource(ends);
        quiet.CancelAfter(Quiet);
        try
        {
            await listener.WaitAsync(quiet.Token);
            return true;
        }
        catch (OperationCanceledException)
        {
            return false;
        }
    }
}
