using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Redirects;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Proofs;

/// <summary>
/// Answers the addresses of trials: on to where the link leads now, with nothing counted and no use taken. Whatever opens one is sent on,
/// so that a mail scanner finds nothing strange; only a person's opening counts for the trial.
/// </summary>
public static class TrialDoor
{
    /// <summary>First part of such an address's path.</summary>
    public const string Prefix = "try";

    /// <summary>Characters of the secret behind it: 96 bits in hexadecimal digits.</summary>
    public const int TokenLength = 24;

    public static void MapTrialDoor(this IEndpointRouteBuilder app) =>
        app.MapMethods($"/{Prefix}/{{token:length({TokenLength})}}", [HttpMethods.Get, HttpMethods.Head], OpenAsync)
            .For(Caller.Anybody)
            .WithMetadata(new OnEveryHost())
            .ExcludeFromDescription();

    private static async Task OpenAsync(
        string token,
        HttpContext context,
        TrialBook book,
        TrialDoorTargets targets,
        TrialStore trials,
        CurrentWorkspace current,
        EventRecorder recorder,
        GuessThrottle guesses,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (await book.OfTokenAsync(token, cancel) is not { } trial)
        {
            await SecretPage.NobodyAsync(context, guesses);
            return;
        }

        if (clock.GetUtcNow() >= trial.EndsAt)
        {
            await PlainPage.WriteAsync(
                context,
                StatusCodes.Status410Gone,
                "This trial is over",
                "The address of a trial works for half an hour; whoever sent it to you can begin another one."
            );
            return;
        }

        current.Id = trial.WorkspaceId;
        if ((await book.VisitsAsync([trial.Id], cancel)).Count > 0 && await trials.IsDoneAsync(trial, cancel))
        {
            await PlainPage.WriteAsync(
                context,
                StatusCodes.Status410Gone,
                "This trial is done",
                "Every step of it was seen already, so its address has ended. Whoever sent it to you can begin another one."
            );
            return;
        }

        var (entry, outcome, address) = await targets.OfAsync(context, trial, cancel);
        var hit = recorder.HitOf(context, entry, Redirector.FlagsOf(context.Request), address);
        await book.AddHitAsync(trial, hit, outcome, address, cancel);
        context.Response.Headers.CacheControl = "private, no-store";
        context.Response.Headers["X-Robots-Tag"] = "noindex";
        if (address is not null)
        {
            context.Response.StatusCode = StatusCodes.Status302Found;
            context.Response.Headers.Location = address;
            return;
        }

        await PlainPage.WriteAsync(
            context,
            outcome == RouteOutcome.Ended ? StatusCodes.Status410Gone : StatusCodes.Status404NotFound,
            outcome == RouteOutcome.Ended ? "This link has ended" : "This link is paused",
            "Whoever follows the link sees a page like this one."
        );
    }
}

/// <summary>Finds where a trial's link leads at the moment.</summary>
public sealed class TrialDoorTargets(TrialLinkReader links, SlugTable slugs, Redirector redirector)
{
    /// <summary>The entry a hit is worked out for, what the link does, and where it leads; null where it leads nowhere.</summary>
    public async Task<(SlugEntry Entry, RouteOutcome Outcome, string? Address)> OfAsync(
        HttpContext context,
        Trial trial,
        CancellationToken cancel
    )
    {
        var (host, slug, url) = await links.ReadAsync(trial.LinkId, cancel);
        if (host is null || slug is null)
        {
            return (new SlugEntry(Guid.Empty, trial.WorkspaceId, url), RouteOutcome.Redirects, url);
        }

        if (slugs.Domain(host)?.GetValueOrDefault(slug) is not { Target: not null } entry)
        {
            return (new SlugEntry(Guid.Empty, trial.WorkspaceId, null), RouteOutcome.Paused, null);
        }

        var (outcome, address) = redirector.WhereTo(context, entry, slug);
        return (entry, outcome, address);
    }
}
