using System.Security.Cryptography;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Headers that keep a browser from doing what the interface never asks for (OWASP ASVS 4, chapter 14.4).</summary>
public static class SecurityHeaders
{
    private const string NonceItem = "csp-nonce";

    public static void UseSecurityHeaders(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                string nonce = Convert.ToBase64String(RandomNumberGenerator.GetBytes(16));
                context.Items[NonceItem] = nonce;
                var headers = context.Response.Headers;
                headers.ContentSecurityPolicy =
                    $"default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data:; font-src 'self'; "
                    + "connect-src 'self'; frame-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";
                headers.XContentTypeOptions = "nosniff";
                headers.XFrameOptions = "DENY";
                headers["Referrer-Policy"] = "same-origin";
                headers["Cross-Origin-Opener-Policy"] = "same-origin";
                headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
                return next(context);
            }
        );

    /// <summary>The nonce that lets styles made at run time through for this one answer.</summary>
    public static string NonceOf(HttpContext context) => (string)context.Items[NonceItem]!;
}
