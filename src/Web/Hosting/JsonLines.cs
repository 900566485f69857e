using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Answers that come line by line, each a JSON text, so that whoever waits sees how far the work is.</summary>
public static class JsonLines
{
    public const string ContentType = "application/x-ndjson";

    /// <summary>Sends one line at once.</summary>
    public static async Task SendAsync<T>(HttpContext context, T line, CancellationToken cancel)
    {
        var response = context.Response;
        if (!response.HasStarted)
        {
            response.ContentType = ContentType;
        }

        var options = context.RequestServices.GetRequiredService<IOptions<JsonOptions>>().Value.SerializerOptions;
        await JsonSerializer.SerializeAsync(response.Body, line, options, cancel);
        await response.Body.WriteAsync("\n"u8.ToArray(), cancel);
        await response.Body.FlushAsync(cancel);
    }

    /// <summary>Sends lines as they come.</summary>
    public static async Task<IResult> SendAllAsync<T>(HttpContext context, IAsyncEnumerable<T> lines, CancellationToken cancel)
    {
        await foreach (var line in lines.WithCancellation(cancel))
        {
            await SendAsync(context, line, cancel);
        }

        return Results.Empty;
    }
}
