using Scalar.AspNetCore;

namespace PreciseBeacon.Web.Hosting;

/// <summary>The description of the calls as a page to read and to try them on.</summary>
public static class ApiReference
{
    /// <summary>Where the page is.</summary>
    public const string Path = "/api";

    public static void MapApiReference(this WebApplication app) =>
        app.MapScalarApiReference(Path, (options, context) =>
            {
                // The page's own script draws its styles as it goes, so they are let through here, and nowhere else. Nothing comes
                // from outside, and nothing goes there.
                string nonce = SecurityHeaders.NonceOf(context);
                context.Response.Headers.ContentSecurityPolicy =
                    $"default-src 'none'; script-src 'self' 'nonce-{nonce}'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; "
                    + "connect-src 'self'; form-action 'none'; base-uri 'none'; frame-ancestors 'none'";
                options.Title = "Precise Beacon: calls";
                options.Nonce = nonce;
                options.DefaultFonts = false;
                options.Telemetry = false;
                options.OpenApiRoutePattern = "/openapi/v1.json";
                options.EnabledTargets = [ScalarTarget.Shell];
                options.HideClientButton = true; // it leads to a server outside
                options.DisableAgent().HideDeveloperTools();
            })
            .For(Caller.Anybody)
            .ExcludeFromDescription();
}
