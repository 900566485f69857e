using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Redirects;

/// <summary>
/// Answers everything on short domains: a known slug with a redirect whose hit is kept before the answer goes out
/// (302, RFC 9110 section 15.4.3), anything else with a plain page. Nothing of the interface is served there.
/// </summary>
public sealed class Redirector(RequestDelegate next, SlugTable table, EventKeeper keeper, UseCounter uses, Countries countries, GuessThrottle guesses, TimeProvider clock, IOptions<BeaconOptions> options)
{
    /// <summary>Where a short domain says that it leads here (RFC 8615 keeps such paths free of anything else).</summary>
    public const string ProofPath = "/.well-known/short-domain";

    private const string NotStored = "private, no-store";
    private const string Private = "private";
    private const string RetrySeconds = "5";
    private const string WhereEnding = "/where";

    private readonly string _publicHost = options.Value.PublicHost;

    public Task InvokeAsync(HttpContext context)
    {
        string host = context.Request.Host.Value ?? "";
        if (table.Domain(host) is not { } slugs)
        {
            // Until the table was filled, nobody can say whether another host is a short domain.
            return table.IsFilled || host.Equals(_publicHost, StringComparison.OrdinalIgnoreCase) || IsProbe(context)
                ? next(context)
                : PlainPage.WriteAsync(context, StatusCodes.Status503ServiceUnavailable, "Just a moment", "This address is being looked up; please try again in a few seconds.", RetrySeconds);
        }

        var request = context.Request;
        string path = request.Path.Value ?? "/";
        if (!HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method))
        {
            return SayAsync(context, StatusCodes.Status405MethodNotAllowed, "Not possible here", "Short links can only be opened.");
        }

        var bySlug = slugs.GetAlternateLookup<ReadOnlySpan<char>>();
        if (path.Length > 1 && bySlug.TryGetValue(path.AsSpan(1), out var entry) && entry.Target is { } target)
        {
            return entry.Conditions is null ? RedirectAsync(context, entry, target) : ConditionalAsync(context, entry, target, entry.Conditions);
        }

        return path.Length > WhereEnding.Length + 1 && path.EndsWith(WhereEnding, StringComparison.OrdinalIgnoreCase)
            && bySlug.TryGetValue(path.AsSpan(1, path.Length - WhereEnding.Length - 1), out entry) && entry.Target is not null
                ? WhereAsync(context, entry)
                : path == ProofPath && table.FactsOf(host) is { } facts ? ProofAsync(context, facts.Proof)
                : UnknownAsync(context);
    }

    /// <summary>A link that does not simply redirect: nobody's click is kept where it leads nowhere.</summary>
    private async Task ConditionalAsync(HttpContext context, SlugEntry entry, string target, RouteConditions conditions)
    {
        var request = context.Request;
        var now = clock.GetUtcNow();
        string device = conditions.AsksDevice ? Device.Of(request.Headers.UserAgent.ToString()) : Device.Computer;
        var (outcome, address) = conditions.At(target, now, device);
        bool ended = conditions.EndsAt <= now || conditions.UsesLeft <= 0;
        if (outcome == RouteOutcome.Redirects && !ended && conditions.UsesLeft is not null)
        {
            var hit = keeper.HitOf(context, entry, FlagsOf(request));

            // Crawlers, previews and the like are sent on and use nothing up.
            if (HitSorter.KindAlone(hit.Flags, hit.UserAgent) == HitKind.Person)
            {
                try
                {
                    if (await uses.TakeAsync(hit, context.RequestAborted))
                    {
                        Answer(context, Completed(context, entry, address!, conditions, device));
                        return;
                    }

                    (outcome, address) = conditions.AfterEnd();
                    ended = true;
                }
                catch (Exception away) when (away is NpgsqlException or TimeoutException)
                {
                    // Nobody can say whether a use is left. The fallback is what its owner wants people to see when in doubt.
                    if (conditions.Fallback is null)
                    {
                        await SayAsync(context, StatusCodes.Status503ServiceUnavailable, "Just a moment", "Whether this link still leads on can’t be looked up right now; please try again in a few seconds.", RetrySeconds);
                        return;
                    }

                    (address, ended) = (conditions.Fallback, true);
                }
            }
        }

        switch (outcome)
        {
            case RouteOutcome.Redirects:
                await keeper.KeepHitAsync(context, entry, FlagsOf(request));
                Answer(context, ended ? address! : Completed(context, entry, address!, conditions, device), conditions.Permanent && !ended);
                break;
            case RouteOutcome.Ended:
                await SayAsync(context, StatusCodes.Status410Gone, "This link has ended", "What it led to is over; ask whoever gave it to you for the page of today.");
                break;
            default:
                await SayAsync(context, StatusCodes.Status404NotFound, "This link is paused", "It leads nowhere for the time being; please try again later.");
                break;
        }
    }

    /// <summary>The address with what is carried through and what is known only now.</summary>
    private string Completed(HttpContext context, SlugEntry entry, string address, RouteConditions conditions, string device)
    {
        var request = context.Request;
        if (conditions.FillsIn)
        {
            string referrer = request.Headers.Referer.ToString();
            address = ClickFillIns.Fill(address, new ClickFacts(
                (request.Path.Value ?? "/")[1..].ToLowerInvariant(), keeper.DayOf(entry.WorkspaceId), device, countries.Of(context.Connection.RemoteIpAddress),
                Uri.TryCreate(referrer, UriKind.Absolute, out var from) ? from.IdnHost : ""));
        }

        return CarriedQuery.Onto(address, Ascii(request.QueryString.Value ?? ""), conditions.Carries);
    }

    /// <summary>Parameters as they came; whatever is not ASCII in them is encoded, so that no header breaks (RFC 9110, 5.5).</summary>
    private static string Ascii(string query) => System.Text.Ascii.IsValid(query) && !query.AsSpan().ContainsAnyInRange('\0', ' ') ? query : PercentEncoding.EncodeForSending(query);

    private async Task WhereAsync(HttpContext context, SlugEntry entry)
    {
        if (!guesses.MayLook(context.Connection.RemoteIpAddress))
        {
            await SayAsync(context, StatusCodes.Status429TooManyRequests, "Slow down", "Too many links were looked at from here; please wait a minute.", "60");
            return;
        }

        try
        {
            await context.RequestServices.GetRequiredService<WherePage>().ShowAsync(context, entry, context.RequestAborted);
        }
        catch (Exception away) when (away is NpgsqlException or TimeoutException or InvalidOperationException { InnerException: NpgsqlException })
        {
            await SayAsync(context, StatusCodes.Status503ServiceUnavailable, "Just a moment", "Where this link leads can't be looked up right now; please try again in a few seconds.", RetrySeconds);
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

    private static Task ProofAsync(HttpContext context, string proof)
    {
        context.Response.Headers.CacheControl = NotStored;
        context.Response.ContentType = "text/plain";
        return context.Response.WriteAsync(proof, context.RequestAborted);
    }

    private Task UnknownAsync(HttpContext context)
    {
        if (!table.IsCurrent)
        {
            // A slug made a moment ago may not have been heard of yet; saying 404 would be a guess.
            return SayAsync(context, StatusCodes.Status503ServiceUnavailable, "Just a moment", "This short link can't be looked up right now; please try again in a few seconds.", RetrySeconds);
        }

        return guesses.MayGuess(context.Connection.RemoteIpAddress)
            ? SayAsync(context, StatusCodes.Status404NotFound, "No such link", "There is no link at this address; check it for slips, or ask whoever gave it to you.")
            : SayAsync(context, StatusCodes.Status429TooManyRequests, "Too many tries", "Too many addresses were tried from here; please wait a minute.", "60");
    }

    /// <summary>A plain page in the name of the workspace whose short domain was asked.</summary>
    private Task SayAsync(HttpContext context, int status, string title, string sentence, string? retryAfter = null) =>
        PlainPage.WriteAsync(context, status, title, sentence, retryAfter, table.FactsOf(context.Request.Host.Value ?? "")?.Workspace);

    private static HitFlags FlagsOf(HttpRequest request)
    {
        var flags = HttpMethods.IsHead(request.Method) ? HitFlags.Head : HitFlags.None;
        return IsPrefetch(request.Headers["Sec-Purpose"].ToString()) || IsPrefetch(request.Headers["Purpose"].ToString())
            ? flags | HitFlags.Prefetch
            : flags;
    }

    private static bool IsPrefetch(string purpose) => purpose.Contains("prefetch", StringComparison.OrdinalIgnoreCase);

    private static bool IsProbe(HttpContext context) => context.Request.Path.Value is "/healthz" or "/readyz";
}
