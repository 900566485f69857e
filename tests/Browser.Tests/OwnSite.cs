using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;

namespace PreciseBeacon.BrowserTests;

/// <summary>A site somebody owns: every page of it has the same head, and one says an order.</summary>
public sealed class OwnSite : IAsyncDisposable
{
    private readonly WebApplication _app;

    private OwnSite(WebApplication app) => _app = app;

    /// <summary>What stands in the head of its pages; copied there by its owner.</summary>
    public string Head { get; set; } = "";

    /// <summary>Host and port, another than that of any other site.</summary>
    public string Host => $"fern.localhost:{new Uri(_app.Urls.First()).Port}";

    public static async Task<OwnSite> StartAsync()
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls("http://127.0.0.1:0");
        var app = builder.Build();
        var site = new OwnSite(app);
        app.MapFallback((HttpContext context) => Results.Text(site.PageOf(context.Request.Path), "text/html; charset=utf-8"));
        await app.StartAsync();
        return site;
    }

    public ValueTask DisposeAsync() => _app.DisposeAsync();

    private string PageOf(string path) =>
        $$"""
            <!doctype html><html lang="en"><head><title>Fern House</title><link rel="icon" href="data:,">{{Head}}</head><body><h1>Fern House</h1>
            {{(
                path == "/bought"
                    ? """<script type="application/json" data-beacon="order">{"id": "F-1", "value": 12.5, "currency": "EUR"}</script><script type="application/json" data-beacon="event">{"name": broken</script>"""
                    : ""
            )}}</body></html>
            """;
}
