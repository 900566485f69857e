using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.ShortLinks;

namespace PreciseBeacon.Web.Redirects;

/// <summary>What short domains answer where there is no link to follow: a plain page in the name of the workspace.</summary>
public sealed class ShortDomainPages(SlugTable table, GuessThrottle guesses)
{
    /// <summary>Where a short domain says that it leads here (RFC 8615 keeps such paths free of anything else).</summary>
    public const string ProofPath = "/.well-known/short-domain";

    /// <summary>When to try again, in seconds.</summary>
    public const string RetrySeconds = "5";

    /// <summary>Answers a request that names no link.</summary>
    public Task AnswerAsync(HttpContext context)
    {
        var request = context.Request;
        if (!HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method))
        {
            return SayAsync(context, StatusCodes.Status405MethodNotAllowed, "Not possible here", "Short links can only be opened.");
        }

        return request.Path.Value == ProofPath && table.FactsOf(request.Host.Value ?? "") is { } facts
            ? ProofAsync(context, facts.Proof)
            : UnknownAsync(context);
    }

    /// <summary>Nothing is known yet.</summary>
    public Task SayNotYetAsync(HttpContext context) =>
        PlainPage.WriteAsync(
            context,
            StatusCodes.Status503ServiceUnavailable,
            "Just a moment",
            "This address is being looked up; please try again in a few seconds.",
            RetrySeconds
        );

    /// <summary>A plain page in the name of the workspace whose short domain was asked.</summary>
    public Task SayAsync(HttpContext context, int status, string title, string sentence, string? retryAfter = null) =>
        PlainPage.WriteAsync(context, status, title, sentence, retryAfter, table.FactsOf(context.Request.Host.Value ?? "")?.Workspace);

    private Task UnknownAsync(HttpContext context)
    {
        if (!table.IsCurrent)
        {
            // A slug made a moment ago may not have been heard of yet; saying 404 would be a guess.
            return SayAsync(
                context,
                StatusCodes.Status503ServiceUnavailable,
                "Just a moment",
                "This short link can't be looked up right now; please try again in a few seconds.",
                RetrySeconds
            );
        }

        return guesses.MayGuess(context.Connection.RemoteIpAddress)
            ? SayAsync(
                context,
                StatusCodes.Status404NotFound,
                "No such link",
                "There is no link at this address; check the spelling, or ask whoever gave it to you."
            )
            : SayAsync(
                context,
                StatusCodes.Status429TooManyRequests,
                "Too many tries",
                "Too many addresses were tried from here; please wait a minute.",
                "60"
            );
    }

    private static Task ProofAsync(HttpContext context, string proof)
    {
        context.Response.Headers.CacheControl = "private, no-store";
        context.Response.ContentType = "text/plain";
        return context.Response.WriteAsync(proof, context.RequestAborted);
    }
}
