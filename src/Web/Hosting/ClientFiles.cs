using Microsoft.Extensions.FileProviders;
using Microsoft.Extensions.Options;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Serves the built interface. Only its own addresses show it; anything else stays a 404.</summary>
public static class ClientFiles
{
    /// <summary>The interface's own addresses.</summary>
    public static readonly string[] Addresses =
    [
        "/",
        "/sign-in",
        "/welcome",
        "/plan",
        "/conventions",
        "/compose",
        "/batches",
        "/ledger",
        "/arrivals",
        "/workspace",
        "/account",
    ];

    public static void MapClient(this WebApplication app)
    {
        string directory = Path.GetFullPath(
            app.Services.GetRequiredService<IOptions<BeaconOptions>>().Value.ClientDirectory,
            app.Environment.ContentRootPath
        );
        string indexPath = Path.Combine(directory, "index.html");
        if (Directory.Exists(directory))
        {
            app.UseStaticFiles(
                new StaticFileOptions
                {
                    FileProvider = new PhysicalFileProvider(Path.Combine(directory, "assets")),
                    RequestPath = "/assets",
                    OnPrepareResponse = file => file.Context.Response.Headers.CacheControl = "public, max-age=31536000, immutable",
                }
            );
        }

        foreach (string address in Addresses)
        {
            app.MapGet(address, async (HttpContext context, CancellationToken cancel) =>
                {
                    if (!File.Exists(indexPath))
                    {
                        return Results.Text(
                            "The interface has not been built yet; run ./start.",
                            statusCode: StatusCodes.Status503ServiceUnavailable
                        );
                    }

                    string page = await File.ReadAllTextAsync(indexPath, cancel);
                    context.Response.Headers.CacheControl = "no-store";
                    return Results.Text(
                        page.Replace("__NONCE__", SecurityHeaders.NonceOf(context), StringComparison.Ordinal),
                        "text/html; charset=utf-8"
                    );
                })
                .For(Caller.Anybody)
                .ExcludeFromDescription();
        }
    }
}
