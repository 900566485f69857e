using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Serves the measuring script.</summary>
public static class ScriptEndpoints
{
    public static void MapMeasuringScript(this IEndpointRouteBuilder app)
    {
        app.MapGet("/beacon.js", (HttpContext context) => Script(context, BeaconScript.Newest, "public, max-age=600"))
            .For(Caller.Anybody)
            .WithMetadata(new OnEveryHost())
            .ExcludeFromDescription();
        app.MapGet("/beacon/{version:int}.js", ReleasedScript).For(Caller.Anybody).WithMetadata(new OnEveryHost()).ExcludeFromDescription();
    }

    /// <summary>A version is served for good and never changes, so that a page may name its hash.</summary>
    private static IResult ReleasedScript(HttpContext context, int version) =>
        BeaconScript.Released.FirstOrDefault(s => s.Version == version) is { } script
            ? Script(context, script, "public, max-age=31536000, immutable")
            : Refusal.NotFound("version").ToResult();

    private static IResult Script(HttpContext context, BeaconScript script, string cache)
    {
        context.Response.Headers.CacheControl = cache;
        context.Response.Headers["Cross-Origin-Resource-Policy"] = "cross-origin";

        // A page that names the hash asks for the script with CORS (W3C Subresource Integrity, section 3.5).
        context.Response.Headers.AccessControlAllowOrigin = "*";
        return Results.Text(script.Text, "text/javascript; charset=utf-8");
    }
}
