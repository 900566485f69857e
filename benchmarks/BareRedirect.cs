namespace PreciseBeacon.Bench;

/// <summary>The reference: a bare routed Kestrel that answers 302 with the same headers and keeps nothing.</summary>
public static class BareRedirect
{
    private const string Target =
        "http://garden.localhost:5081/visit?utm_source=gate_poster&utm_medium=qr&utm_campaign=2026-09_lantern_nights";

    public static Task ServeAsync(int port)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.AddServerHeader = false);
        var app = builder.Build();
        app.MapGet("/{slug}", (HttpContext context) =>
        {
            var response = context.Response;
            response.StatusCode = StatusCodes.Status302Found;
            response.Headers.Location = Target;
            response.Headers.CacheControl = "private, no-store";
            response.ContentLength = 0;
            return Task.CompletedTask;
        });
        return app.RunAsync($"http://127.0.0.1:{port}");
    }
}
