using PreciseBeacon.Data.ShortLinks;

namespace PreciseBeacon.Web.Redirects;

/// <summary>Plain pages in the name of the workspace whose short domain was asked.</summary>
public sealed class WorkspacePage(SlugTable table)
{
    /// <summary>When to try again, in seconds.</summary>
    public const string RetrySeconds = "5";

    public Task SayAsync(HttpContext context, int status, string title, string sentence, string? retryAfter = null) =>
        PlainPage.WriteAsync(context, status, title, sentence, retryAfter, table.FactsOf(context.Request.Host.Value ?? "")?.Workspace);
}
