using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Counts of one link, and the page strangers may be given.</summary>
public static class ResultEndpoints
{
    public static void MapResults(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Ledger");
        group
            .MapGet("/links/{id:guid}/counts", CountsAsync)
            .WithName("ReadLinkCounts")
            .WithSummary("Counts a link's clicks, scans and visits over time.")
            .For(Caller.Readers);
        group
            .MapPost("/links/{id:guid}/results-page", ShareAsync)
            .WithName("ShareResults")
            .WithSummary("Makes a public page with a link's results.")
            .For(Caller.Builders);
        group
            .MapDelete("/links/{id:guid}/results-page", WithdrawAsync)
            .WithName("WithdrawResults")
            .WithSummary("Takes a link's public results page down.")
            .For(Caller.Builders);
        app.MapGet("/results/{token}", PageAsync).For(Caller.Anybody).ExcludeFromDescription();
    }

    private static async Task<Outcome<LinkResultsAnswer>> CountsAsync(
        Guid id,
        LinkResults results,
        CancellationToken cancel,
        string range = "month",
        string? from = null,
        string? to = null
    ) => await results.ReadAsync(id, range, Day(from), Day(to), cancel);

    private static async Task<Outcome<SharedResults>> ShareAsync(Guid id, LinkResults results, CancellationToken cancel) =>
        await results.ShareAsync(id, cancel) is { } address ? new SharedResults(address) : Refusal.NotFound("link");

    private static async Task<Refusal?> WithdrawAsync(Guid id, LinkResults results, CancellationToken cancel) =>
        await results.WithdrawAsync(id, cancel) ? null : Refusal.NotFound("page");

    private static async Task PageAsync(
        string token,
        HttpContext context,
        LinkResults results,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        if (await results.FindAsync(token, cancel) is not var (title, workspace, all, month))
        {
            await SecretPage.NobodyAsync(context, guesses);
            return;
        }

        SecretPage.Guard(context);
        context.Response.ContentType = "text/html; charset=utf-8";
        await context.Response.WriteAsync(ResultsPage.Draw(title, workspace, all, month, SecurityHeaders.NonceOf(context)), cancel);
    }

    private static DateOnly? Day(string? text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}
