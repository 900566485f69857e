using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Answers with 503 until the database was readied; only whether the process lives and is ready can be asked before.</summary>
public sealed class StartGate(RequestDelegate next, DatabaseSetup setup)
{
    /// <summary>When to try again, for Retry-After.</summary>
    public const string RetrySeconds = "5";

    public Task InvokeAsync(HttpContext context)
    {
        var path = context.Request.Path;
        if (setup.IsDone || path == "/healthz" || path == "/readyz")
        {
            return next(context);
        }

        context.Response.Headers.RetryAfter = RetrySeconds;
        return path.StartsWithSegments("/api")
            ? Refusal.WriteAsync(context, StatusCodes.Status503ServiceUnavailable, "starting", "The database can't be reached right now; try again in a few seconds.")
            : PlainPage.WriteAsync(context, StatusCodes.Status503ServiceUnavailable, "Just a moment", "This address is just starting; please try again in a few seconds.", RetrySeconds);
    }
}
