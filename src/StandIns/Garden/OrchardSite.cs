using System.Net;

namespace PreciseBeacon.StandIns.Garden;

/// <summary>The orchard's own small website, measured without ids: its visitors are known for a day only.</summary>
public static class OrchardSite
{
    /// <summary>The name it answers under, on the same port as the garden's.</summary>
    private const string Host = "orchard.localhost";

    private static readonly (string Path, string Title, string Text)[] Pages =
    [
        ("/", "Marrowmere Orchard", "Three hundred trees, a press and a long table."),
        ("/picnic", "Picnics", "Tables for ten under the oldest trees."),
        ("/cider", "Cider", "Pressed in October, poured from March."),
    ];

    public static void MapOrchard(this IEndpointRouteBuilder app, GardenOptions options)
    {
        foreach (var (path, title, text) in Pages)
        {
            app.MapGet(path, () => Results.Text(Draw(options, title, text), "text/html; charset=utf-8")).RequireHost(Host);
        }
    }

    private static string Draw(GardenOptions options, string title, string text)
    {
        string menu = string.Concat(Pages.Select(p => $"<a href=\"{p.Path}\">{WebUtility.HtmlEncode(p.Title)}</a> "));
        return $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <link rel="icon" href="data:,"><title>{{WebUtility.HtmlEncode(title)}}</title>
            <style>body{margin:0;font:17px/1.55 Georgia,serif;color:#3a2a18;background:#faf5e8}nav,main{padding:1rem 2rem}a{color:#7a3b12}</style>
            <script async src="{{options.BeaconUrl}}/beacon.js" data-key="{{options.OrchardKey}}"></script></head>
            <body><nav>{{menu}}</nav><main><h1>{{WebUtility.HtmlEncode(title)}}</h1><p>{{WebUtility.HtmlEncode(
                text
            )}}</p></main></body></html>
            """;
    }
}
