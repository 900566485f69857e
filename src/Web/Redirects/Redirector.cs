using System.Security.Cryptography;
using Npgsql;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Redirects;

/// <summary>
/// Answers known slugs on short domains with a redirect whose hit is kept before the answer goes out (302, RFC 9110 section
/// 15.4.3). What else such a domain answers is decided after the endpoint is known; nothing of the interface is served there.
/// </summary>
public sealed class Redirector(
    SlugTable table,
    WorkspacePage page,
    EventRecorder keeper,
    UseCounter uses,
    Countries countries,
    GuessThrottle guesses,
    TimeProvider clock
)
{
    private const string NotStored = "private, no-store";
    private const string Private = "private";
    private const string WhereEnding = "/where";

    /// <summary>Follows the short link a request names.</summary>
    /// <returns>The answering; null where the request names none that is known.</returns>
    public Task? Follow(HttpContext context)
    {
        var request = context.Request;
        if (
            table.Domain(request.Host.Value ?? "") is not { } slugs
            || !(HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method))
        )
        {
            return null;
        }

        string path = WithoutEndingSlash(request.Path.Value ?? "/");
        var bySlug = slugs.GetAlternateLookup<ReadOnlySpan<char>>();
        if (path.Length > 1 && bySlug.TryGetValue(path.AsSpan(1), out var entry) && entry.Target is { } target)
        {
            return entry.Conditions is null
                ? RedirectAsync(context, entry, target)
                : ConditionalAsync(context, entry, target, entry.Conditions);
        }

        return
            path.Length > WhereEnding.Length + 1
            && path.EndsWith(WhereEnding, StringComparison.OrdinalIgnoreCase)
            && bySlug.TryGetValue(path.AsSpan(1, path.Length - WhereEnding.Length - 1), out entry)
            && entry.Target is not null
            ? WhereAsync(context, entry)
            : null;
    }

    /// <summary>Where a short link would lead whoever asks, at this moment; nothing is kept and no use is taken.</summary>
    /// <param name="context">The request; what stands behind its address is not carried on.</param>
    /// <param name="entry">The short link, which has a target.</param>
    /// <param name="slug">Its slug.</param>
    /// <returns>The outcome; the address is null unless it redirects.</returns>
    public (RouteOutcome Outcome, string? Address) WhereTo(HttpContext context, SlugEntry entry, string slug)
    {
        if (entry is not { Conditions: { } conditions, Target: { } target })
        {
            return (RouteOutcome.Redirects, entry.Target);
        }

        string device = conditions.AsksDevice ? Device.Of(context.Request.Headers.UserAgent.ToString()) : Device.Computer;
        var (outcome, address) = conditions.At(target, clock.GetUtcNow(), device);
        return (outcome, address is null ? null : Filled(context, entry, address, conditions, device, null, slug));
    }

    /// <summary>A link that does not simply redirect: nobody's click is kept where it leads nowhere.</summary>
    private async Task ConditionalAsync(HttpContext context, SlugEntry entry, string target, RouteConditions conditions)
    {
        var request = context.Request;
        var now = clock.GetUtcNow();
        string device = conditions.AsksDevice ? Device.Of(request.Headers.UserAgent.ToString()) : Device.Computer;
        var (outcome, address) = conditions.At(target, now, device);
        bool over = conditions.EndsAt <= now;
        Guid? clickId = conditions is { ClickIds: true, FillsIn: true } ? ClickId.Of(RandomNumberGenerator.GetBytes(16)) : null;
        bool ended = over || conditions.UsesLeft <= 0;
        var before = conditions.BeforeEnd(target, now, device);
        if (
            conditions.UsesLeft is not null
            && !over
            && before.Outcome == RouteOutcome.Redirects
            && (!ended || conditions.MayBeLastTap(now))
        )
        {
            var hit = keeper.HitOf(context, entry, FlagsOf(request), before.Address, clickId);

            // Crawlers, previews and the like are sent on and use nothing up.
            if (HitClassifier.KindAlone(hit.Flags, hit.UserAgent) == HitKind.Person)
            {
                try
                {
                    if (await uses.TakeAsync(hit, context.RequestAborted))
                    {
                        Answer(context, Completed(context, entry, before.Address!, conditions, device, clickId));
                        return;
                    }

                    (outcome, address) = conditions.AfterEnd();
                    ended = true;
                }
                catch (Exception away) when (!ended && away is (NpgsqlException or TimeoutException))
                {
                    // Nobody can say whether a use is left. The fallback is what its owner wants people to see when in doubt.
                    if (conditions.Fallback is null)
                    {
                        await page.SayAsync(
                            context,
                            StatusCodes.Status503ServiceUnavailable,
                            "Just a moment",
                            "This link can’t be looked up right now; please try again in a few seconds.",
                            WorkspacePage.RetrySeconds
                        );
                        return;
                    }

                    (address, ended) = (conditions.Fallback, true);
                }
                catch (Exception away) when (away is NpgsqlException or TimeoutException)
                {
                    // It has ended, that much is known.
                }
            }
        }

        switch (outcome)
        {
            case RouteOutcome.Redirects:
                await keeper.KeepHitAsync(context, entry, FlagsOf(request), address, ended ? null : clickId);
                Answer(
                    context,
                    ended ? address! : Completed(context, entry, address!, conditions, device, clickId),
                    conditions.Permanent && !ended
                );
                break;
            case RouteOutcome.Ended:
                await page.SayAsync(
                    context,
                    StatusCodes.Status410Gone,
                    "This link has ended",
                    "This link has expired; ask whoever gave it to you for a new one."
                );
                break;
            default:
                await page.SayAsync(
                    context,
                    StatusCodes.Status404NotFound,
                    "This link is paused",
                    "This link is switched off for now; please try again later."
                );
                break;
        }
    }

    /// <summary>The address with what is carried through and what is known only now.</summary>
    private string Completed(HttpContext context, SlugEntry entry, string address, RouteConditions conditions, string device, Guid? clickId)
    {
        var request = context.Request;
        string slug = WithoutEndingSlash(request.Path.Value ?? "/")[1..].ToLowerInvariant();
        return CarriedQuery.Onto(
            Filled(context, entry, address, conditions, device, clickId, slug),
            Ascii(request.QueryString.Value ?? ""),
            conditions.Carries
        );
    }

    private string Filled(
        HttpContext context,
        SlugEntry entry,
        string address,
        RouteConditions conditions,
        string device,
        Guid? clickId,
        string slug
    )
    {
        if (!conditions.FillsIn)
        {
            return address;
        }

        string referrer = context.Request.Headers.Referer.ToString();
        return ClickFillIns.Fill(
            address,
            new ClickFacts(
                slug,
                keeper.DayOf(entry.WorkspaceId),
                device,
                countries.Of(context.Connection.RemoteIpAddress),
                Uri.TryCreate(referrer, UriKind.Absolute, out var from) ? from.IdnHost : "",
                clickId is { } id ? ClickId.Text(id) : ""
            )
        );
    }

    /// <summary>Parameters as they came; whatever is not ASCII in them is encoded, so that no header breaks (RFC 9110, 5.5).</summary>
    private static string Ascii(string query) =>
        System.Text.Ascii.IsValid(query) && !query.AsSpan().ContainsAnyInRange('\0', ' ') ? query : PercentEncoding.EncodeForSending(query);

    private async Task WhereAsync(HttpContext context, SlugEntry entry)
    {
        if (!guesses.MayLook(context.Connection.RemoteIpAddress))
        {
            await page.SayAsync(
                context,
                StatusCodes.Status429TooManyRequests,
                "Slow down",
                "Too many links were opened from here; please wait a minute.",
                "60"
            );
            return;
        }

        try
        {
            await context.RequestServices.GetRequiredService<WherePage>().ShowAsync(context, entry, context.RequestAborted);
        }
        catch (Exception away)
            when (away is NpgsqlException or TimeoutException or InvalidOperationException { InnerException: NpgsqlException })
        {
            await page.SayAsync(
                context,
                StatusCodes.Status503ServiceUnavailable,
                "Just a moment",
                "This link can't be looked up right now; please try again in a few seconds.",
                WorkspacePage.RetrySeconds
            );
        }
    }

    private Task RedirectAsync(HttpContext context, SlugEntry entry, string target)
    {
        var kept = keeper.KeepHitAsync(context, entry, FlagsOf(context.Request));
        if (!kept.IsCompletedSuccessfully)
        {
            return AwaitAsync(kept, context, target);
        }

        Answer(context, target);
        return Task.CompletedTask;

        static async Task AwaitAsync(ValueTask kept, HttpContext context, string target)
        {
            await kept;
            Answer(context, target);
        }
    }

    /// <summary>302 and never stored, so that each click is seen; 301 on request, which browsers remember (RFC 9110, 15.4.2; RFC 9111, 4.2.2).</summary>
    private static void Answer(HttpContext context, string target, bool permanent = false)
    {
        var response = context.Response;
        response.StatusCode = permanent ? StatusCodes.Status301MovedPermanently : StatusCodes.Status302Found;
        response.Headers.Location = target;
        response.Headers.CacheControl = permanent ? Private : NotStored;
        response.ContentLength = 0;
    }

    /// <summary>Some programs add a slash to an address that has none; no slug has one.</summary>
    private static string WithoutEndingSlash(string path) => path is ['/', _, .., '/'] ? path[..^1] : path;

    /// <summary>What a request says about itself.</summary>
    internal static HitFlags FlagsOf(HttpRequest request)
    {
        var flags = HttpMethods.IsHead(request.Method) ? HitFlags.Head : HitFlags.None;
        return IsPrefetch(request.Headers["Sec-Purpose"].ToString()) || IsPrefetch(request.Headers["Purpose"].ToString())
            ? flags | HitFlags.Prefetch
            : flags;
    }

    private static bool IsPrefetch(string purpose) => purpose.Contains("prefetch", StringComparison.OrdinalIgnoreCase);
}
