using Microsoft.Net.Http.Headers;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Answers with 503 until the database was readied; only whether the process lives and is ready can be asked before.</summary>
public sealed class StartGate(RequestDelegate next, DatabaseSetup setup)
{
    /// <summary>When to try again, for Retry-After.</summary>
    public const string RetrySeconds = "5";

    public Task InvokeAsync(HttpContext context)
    {
        if (context.GetEndpoint()?.Metadata.GetMetadata<ProbeEndpoint>() is not null)
        {
            // Told to whoever asks: looking up who that is would need the database.
            context.Request.Headers.Remove(HeaderNames.Authorization);
            context.Request.Headers.Remove(HeaderNames.Cookie);
            return next(context);
        }

        if (setup.IsDone)
        {
            return next(context);
        }

        context.Response.Headers.RetryAfter = RetrySeconds;
        return context.Request.Headers.Accept.ToString().Contains("text/html", StringComparison.OrdinalIgnoreCase)
            ? PlainPage.WriteAsync(
                context,
                StatusCodes.Status503ServiceUnavailable,
                "Just a moment",
                "Precise Beacon is just starting; please try again in a few seconds.",
                RetrySeconds
            )
            : Refusals.WriteAsync(
                context,
                StatusCodes.Status503ServiceUnavailable,
                "starting",
                "Precise Beacon is just starting, or its database can't be reached; try again in a few seconds."
            );
    }
}
