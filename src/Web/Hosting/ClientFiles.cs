using Microsoft.Extensions.FileProviders;
using Microsoft.Extensions.Options;

namespace PreciseBeacon.Web.Hosting;

/// <summary>The built interface: one page for people with an account, one for results pages, and the files both need.</summary>
public sealed class ClientFiles(IOptions<BeaconOptions> options, IHostEnvironment environment)
{
    /// <summary>The page for people with an account.</summary>
    public const string Application = "index.html";

    /// <summary>The page for people who were given the address of results.</summary>
    public const string Results = "results.html";

    /// <summary>The interface's own addresses; anything else stays a 404.</summary>
    public static readonly string[] Addresses =
    [
        "/",
        "/sign-in",
        "/welcome",
        "/join",
        "/plan",
        "/conventions",
        "/compose",
        "/batches",
        "/ledger",
        "/arrivals",
        "/proof",
        "/workspace",
        "/account",
    ];

    private readonly string _directory = Path.GetFullPath(options.Value.ClientDirectory, environment.ContentRootPath);

    public static void MapClient(WebApplication app)
    {
        var files = app.Services.GetRequiredService<ClientFiles>();
        if (Directory.Exists(files._directory))
        {
            app.UseStaticFiles(
                new StaticFileOptions
                {
                    FileProvider = new PhysicalFileProvider(Path.Combine(files._directory, "assets")),
                    RequestPath = "/assets",
                    OnPrepareResponse = file => file.Context.Response.Headers.CacheControl = "public, max-age=31536000, immutable",
                }
            );
        }

        foreach (string address in Addresses)
        {
            app.MapGet(address, (HttpContext context, CancellationToken cancel) =>
                {
                    context.Response.Headers.CacheControl = "no-store";
                    return files.WriteAsync(context, Application, cancel);
                })
                .For(Caller.Anybody)
                .ExcludeFromDescription();
        }
    }

    /// <summary>Sends one of the interface's pages, with the nonce that lets its own styles through.</summary>
    public async Task WriteAsync(HttpContext context, string page, CancellationToken cancel)
    {
        string path = Path.Combine(_directory, page);
        if (!File.Exists(path))
        {
            context.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
            await context.Response.WriteAsync("The interface has not been built yet; run ./start.", cancel);
            return;
        }

        context.Response.ContentType = "text/html; charset=utf-8";
        await context.Response.WriteAsync(
            (await File.ReadAllTextAsync(path, cancel)).Replace("__NONCE__", SecurityHeaders.NonceOf(context), StringComparison.Ordinal),
            cancel
        );
    }
}
