using System.Net;

namespace PreciseBeacon.Web.Redirects;

/// <summary>The few pages strangers see on a short domain: one sentence, no script, nothing fetched, never stored.</summary>
public static class PlainPage
{
    /// <param name="context">The request.</param>
    /// <param name="status">The answer's status.</param>
    /// <param name="title">The heading.</param>
    /// <param name="sentence">The sentence that is shown.</param>
    /// <param name="retryAfter">When to try again, in seconds; null to say nothing about it.</param>
    /// <param name="whose">The workspace in whose name it is said; null for none.</param>
    /// <param name="page">A page to be named, as it is shown and as it is followed; null for none.</param>
    /// <param name="results">Address of a link's figures; null for none.</param>
    /// <param name="button">What a button is called that sends the page's own address; null for none.</param>
    public static Task WriteAsync(
        HttpContext context,
        int status,
        string title,
        string sentence,
        string? retryAfter = null,
        string? whose = null,
        (string Shown, string Address)? page = null,
        string? results = null,
        string? button = null
    )
    {
        var response = context.Response;
        response.StatusCode = status;
        response.ContentType = "text/html; charset=utf-8";
        response.Headers.CacheControl = "no-store";
        response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'";
        response.Headers.XContentTypeOptions = "nosniff";
        if (retryAfter is not null)
        {
            response.Headers.RetryAfter = retryAfter;
        }

        string named = page is var (shown, address)
            ? $"<p class=\"page\">{WebUtility.HtmlEncode(shown)}</p><p><a rel=\"nofollow\" href=\"{WebUtility.HtmlEncode(address)}\">Open the page</a></p>"
            : "";
        named += results is null
            ? ""
            : $"<p><a rel=\"nofollow\" href=\"{WebUtility.HtmlEncode(results)}\">How often this link was used</a></p>";
        named += button is null ? "" : $"<form method=\"post\"><button>{WebUtility.HtmlEncode(button)}</button></form>";
        string name = whose is null ? "" : $"<p class=\"whose\">{WebUtility.HtmlEncode(whose)}</p>";
        return response.WriteAsync(
            $$$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <title>{{{WebUtility.HtmlEncode(title)}}}</title>
            <style>body{margin:0;font:17px/1.5 system-ui,sans-serif;background:#F6F4EF;color:#1E2230}main{max-width:30rem;margin:18vh auto;padding:0 1.25rem}h1{font-size:1.4rem;font-weight:600}.page{font-family:ui-monospace,monospace;font-size:.95rem;overflow-wrap:anywhere}a{color:#6A2C55}button{font:inherit;padding:.5rem 1rem;border:0;border-radius:4px;background:#6A2C55;color:#fff;cursor:pointer}.whose{margin-top:2.5rem;font-size:.95rem;color:#5B5A57}
            @media(prefers-color-scheme:dark){body{background:#16171C;color:#E8E5DE}a{color:#D99CC2}.whose{color:#A9A59C}}</style></head>
            <body><main><h1>{{{WebUtility.HtmlEncode(title)}}}</h1><p>{{{WebUtility.HtmlEncode(
                sentence
            )}}}</p>{{{named}}}{{{name}}}</main></body></html>
            """,
            context.RequestAborted
        );
    }
}
