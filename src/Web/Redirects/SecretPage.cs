using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Web.Redirects;

/// <summary>Pages whose address is their key: it is told to nobody, and kept by nothing on the way.</summary>
public static class SecretPage
{
    /// <summary>Keeps the address from being stored, handed on or listed.</summary>
    public static void Guard(HttpContext context)
    {
        context.Response.Headers.CacheControl = "private, no-store";
        context.Response.Headers["Referrer-Policy"] = "no-referrer";
        context.Response.Headers["X-Robots-Tag"] = "noindex, nofollow";
    }

    /// <summary>What whoever has a wrong address, or one that was taken back, gets; guessing is slowed down.</summary>
    public static Task NobodyAsync(HttpContext context, GuessThrottle guesses) =>
        guesses.MayGuess(context.Connection.RemoteIpAddress)
            ? PlainPage.WriteAsync(
                context,
                StatusCodes.Status404NotFound,
                "There is nothing here",
                "The address is mistyped, or the page was withdrawn. Ask whoever gave it to you for a new one."
            )
            : PlainPage.WriteAsync(
                context,
                StatusCodes.Status429TooManyRequests,
                "Slow down",
                "Too many wrong addresses came from here; wait a minute and try again.",
                "60"
            );
}
