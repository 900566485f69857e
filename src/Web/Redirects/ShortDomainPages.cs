using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.ShortLinks;

namespace PreciseBeacon.Web.Redirects;

/// <summary>What short domains answer where there seems to be no link to follow.</summary>
public sealed class ShortDomainPages(SlugTable table, SlugFeed feed, Redirector redirector, WorkspacePage page, GuessThrottle guesses)
{
    /// <summary>Where a short domain says that it leads here (RFC 8615 keeps such paths free of anything else).</summary>
    public const string ProofPath = "/.well-known/short-domain";

    /// <summary>Answers a request that names no link.</summary>
    public Task AnswerAsync(HttpContext context)
    {
        var request = context.Request;
        if (!HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method))
        {
            return page.SayAsync(context, StatusCodes.Status405MethodNotAllowed, "Not possible here", "Short links can only be opened.");
        }

        return request.Path.Value == ProofPath && table.FactsOf(request.Host.Value ?? "") is { } facts
            ? ProofAsync(context, facts.Proof)
            : UnknownAsync(context);
    }

    /// <summary>Whether a host nobody knows became a short domain a moment ago; whoever tries many hosts is not looked up again.</summary>
    public async Task<bool> HeardOfNowAsync(HttpContext context)
    {
        if (!table.IsCurrent || !guesses.MayGuess(context.Connection.RemoteIpAddress))
        {
            return false;
        }

        try
        {
            await feed.CatchUpAsync(context.RequestAborted);
        }
        catch (TimeoutException)
        {
            return false;
        }

        return table.Domain(context.Request.Host.Value ?? "") is not null;
    }

    /// <summary>Nothing is known yet.</summary>
    public Task SayNotYetAsync(HttpContext context) =>
        PlainPage.WriteAsync(
            context,
            StatusCodes.Status503ServiceUnavailable,
            "Just a moment",
            "This address is being looked up; please try again in a few seconds.",
            WorkspacePage.RetrySeconds
        );

    private async Task UnknownAsync(HttpContext context)
    {
        if (!table.IsCurrent)
        {
            await SayNobodyKnowsAsync(context);
            return;
        }

        if (!guesses.MayGuess(context.Connection.RemoteIpAddress))
        {
            await page.SayAsync(
                context,
                StatusCodes.Status429TooManyRequests,
                "Too many tries",
                "Too many addresses were tried from here; please wait a minute.",
                "60"
            );
            return;
        }

        // A link saved a moment ago, here or by another process, may not have been heard of yet: saying 404 would be a guess.
        try
        {
            await feed.CatchUpAsync(context.RequestAborted);
        }
        catch (TimeoutException)
        {
            await SayNobodyKnowsAsync(context);
            return;
        }

        await (
            redirector.Follow(context)
            ?? page.SayAsync(
                context,
                StatusCodes.Status404NotFound,
                "No such link",
                "There is no link at this address; check the spelling, or ask whoever gave it to you."
            )
        );
    }

    private Task SayNobodyKnowsAsync(HttpContext context) =>
        page.SayAsync(
            context,
            StatusCodes.Status503ServiceUnavailable,
            "Just a moment",
            "This short link can’t be looked up right now; please try again in a few seconds.",
            WorkspacePage.RetrySeconds
        );

    private static Task ProofAsync(HttpContext context, string proof)
    {
        context.Response.Headers.CacheControl = "private, no-store";
        context.Response.ContentType = "text/plain";
        return context.Response.WriteAsync(proof, context.RequestAborted);
    }
}
