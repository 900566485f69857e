using Microsoft.AspNetCore.Antiforgery;
using Microsoft.Extensions.Options;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// Keeps pages of other sites from sending something in a person's name: their browser's cookie goes along by itself. One
/// decision for every endpoint and every method that may change something, by what the endpoint is and never by how its
/// address is written (OWASP ASVS 4.0.3, 4.2.2 and 13.2.3).
/// </summary>
public static class ForgeryCheck
{
    private const string SameOrigin = "same-origin";

    /// <summary>Why a request is refused; null when it may pass.</summary>
    public static async Task<(int Status, string Rule, string Says)?> RefusalAsync(HttpContext context, Endpoint endpoint)
    {
        string method = context.Request.Method;
        bool changesNothing =
            HttpMethods.IsGet(method) || HttpMethods.IsHead(method) || HttpMethods.IsOptions(method) || HttpMethods.IsTrace(method);
        if (
            changesNothing
            || context.User.Identity?.AuthenticationType == ApiKeyHandler.Scheme
            || endpoint.Metadata.GetMetadata<OpenToAllSites>() is not null
        )
        {
            return null;
        }

        if (!IsOwnPage(context.Request))
        {
            return (
                StatusCodes.Status403Forbidden,
                "foreign-page",
                "This was sent from a page of another site; open Precise Beacon and do it there."
            );
        }

        return await context.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(context)
            ? null
            : (
                StatusCodes.Status400BadRequest,
                "page-too-old",
                "This page was open while somebody signed in or out; reload it and do it again."
            );
    }

    /// <summary>What the browser itself says of where a request comes from (Fetch Metadata; RFC 6454 §7). Programs say nothing, and have no cookie.</summary>
    private static bool IsOwnPage(HttpRequest request)
    {
        string site = request.Headers["Sec-Fetch-Site"].ToString();
        if (site.Length > 0 && site != SameOrigin)
        {
            return false;
        }

        string origin = request.Headers.Origin.ToString();
        return origin.Length == 0
            || (
                Uri.TryCreate(origin, UriKind.Absolute, out var from)
                && (IsHost(from, request.Host.Value) || IsHost(from, PublicHostOf(request)))
            );
    }

    private static bool IsHost(Uri from, string? host) => from.Authority.Equals(host, StringComparison.OrdinalIgnoreCase);

    private static string PublicHostOf(HttpRequest request) =>
        request.HttpContext.RequestServices.GetRequiredService<IOptions<BeaconOptions>>().Value.PublicHost;
}
