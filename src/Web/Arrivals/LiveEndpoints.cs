using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
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
    private const string Arrived = "arrival";

    /// <summary>Visits that are looked through for new ones; of more that come in one step only these are told.</summary>
    private const int Newest = 100;

    /// <summary>Visits told before that are remembered.</summary>
    private const int MostKnown = 1_000;

    public static void MapLive(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/v1/live", Listen)
            .WithTags("Arrivals")
            .WithName("ListenToTraffic")
            .WithSummary("Streams an event each time clicks or visits changed, at most one a second.")
            .Produces(StatusCodes.Status200OK, contentType: "text/event-stream")
            .For(Caller.Readers);
        app.MapGet("/api/v1/watch", WatchAsync)
            .WithTags("Arrivals")
            .WithName("WatchArrivals")
            .WithSummary("Streams an event for each visit as it is sorted.")
            .Produces<VisitAnswer>(StatusCodes.Status200OK, contentType: "text/event-stream")
            .For(Caller.Readers);
    }

    private static ServerSentEventsResult<string> Listen(
        BeaconDb db,
        LiveTraffic live,
        IHostApplicationLifetime lifetime,
        CancellationToken cancel
    ) => TypedResults.ServerSentEvents(EventsAsync(db.CurrentWorkspaceId!.Value, live, lifetime.ApplicationStopping, cancel));

    private static async Task<ServerSentEventsResult<VisitAnswer?>> WatchAsync(
        BeaconDb db,
        ConventionReader conventions,
        VisitReader visits,
        LiveTraffic live,
        TimeProvider clock,
        IHostApplicationLifetime lifetime,
        CancellationToken cancel
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        return TypedResults.ServerSentEvents(
            ArrivalsAsync(workspace, conventions, visits, live, clock, lifetime.ApplicationStopping, cancel)
        );
    }

    /// <summary>Each visit once, the oldest of a step first; those that are there at the beginning are not told.</summary>
    private static async IAsyncEnumerable<SseItem<VisitAnswer?>> ArrivalsAsync(
        Workspace workspace,
        ConventionReader conventions,
        VisitReader visits,
        LiveTraffic live,
        TimeProvider clock,
        CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(stopping, cancel);
        ends.CancelAfter(Longest);
        using var listener = live.Listen(workspace.Id);
        var known = (await NewestAsync()).Select(v => v.Id).ToHashSet();
        yield return new SseItem<VisitAnswer?>(null, Still);
        while (!ends.IsCancellationRequested)
        {
            bool told = await ToldAsync(listener, ends.Token);
            if (ends.IsCancellationRequested)
            {
                yield break;
            }

            if (!told)
            {
                yield return new SseItem<VisitAnswer?>(null, Still);
                continue;
            }

            var newest = await NewestAsync();
            foreach (var visit in newest.Reverse().Where(v => known.Add(v.Id)))
            {
                yield return new SseItem<VisitAnswer?>(VisitAnswer.Of(visit), Arrived);
            }

            if (known.Count > MostKnown)
            {
                known = [.. newest.Select(v => v.Id)];
            }

            await Task.Delay(Pace, ends.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }

        // A visit that went on past midnight began the day before.
        async Task<IReadOnlyList<VisitRow>> NewestAsync()
        {
            var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
            return await visits.ListAsync(
                new ArrivalsRequest(workspace.Id, workspace.Currency, today.AddDays(-1), today, [], []),
                await conventions.ReadAsync(cancel),
                null,
                Newest,
                cancel
            );
        }
    }

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
