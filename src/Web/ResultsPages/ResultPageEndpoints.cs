using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.ResultsPages;

/// <summary>Pages of figures for people without an account, and what they read there.</summary>
public static class ResultPageEndpoints
{
    public static void MapResultPages(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Results");
        group
            .MapPost("/links/{id:guid}/results-page", ShareAsync)
            .WithName("ShareResults")
            .WithSummary("Makes a public page with a link's results.")
            .For(Caller.Builders);
        group
            .MapDelete("/links/{id:guid}/results-page", WithdrawOfLinkAsync)
            .WithName("WithdrawResults")
            .WithSummary("Takes a link's public results page down.")
            .For(Caller.Builders);
        group
            .MapGet("/results-pages", ListAsync)
            .WithName("ListResultsPages")
            .WithSummary("Lists public pages of views.")
            .For(Caller.Readers);
        group
            .MapPost("/results-pages", MakeAsync)
            .WithName("MakeResultsPage")
            .WithSummary("Makes a public page of a view.")
            .For(Caller.Builders);
        group
            .MapPut("/results-pages/{id:guid}", ChangeAsync)
            .WithName("ChangeResultsPage")
            .WithSummary("Changes a public page of a view.")
            .For(Caller.Builders);
        group
            .MapDelete("/results-pages/{id:guid}", WithdrawAsync)
            .WithName("WithdrawResultsPage")
            .WithSummary("Takes a public page of a view down.")
            .For(Caller.Builders);
        group
            .MapGet("/results/{token}", AboutAsync)
            .WithName("ReadResultsPage")
            .WithSummary("Says what a public results page is about.")
            .For(Caller.Anybody);
        group
            .MapGet("/results/{token}/arrivals", ArrivalsAsync)
            .WithName("ReadSharedArrivals")
            .WithSummary("Reads the rows of a public results page.")
            .For(Caller.Anybody);
        group
            .MapGet("/results/{token}/counts", CountsAsync)
            .WithName("ReadSharedCounts")
            .WithSummary("Reads what was counted on the link of a public results page.")
            .For(Caller.Anybody);
        app.MapGet("/results/{token}", PageAsync).For(Caller.Anybody).ExcludeFromDescription();
    }

    private static async Task<Outcome<SharedResults>> ShareAsync(
        Guid id,
        ResultPageStore pages,
        CancellationToken cancel,
        SharedResultsRequest? request = null
    ) => await pages.ShareAsync(id, request?.OnWherePage ?? false, cancel) is { } shared ? shared : Refusal.NotFound("link");

    private static async Task<Refusal?> WithdrawOfLinkAsync(Guid id, ResultPageStore pages, CancellationToken cancel) =>
        await pages.WithdrawOfLinkAsync(id, cancel) ? null : Refusal.NotFound("page");

    private static async Task<Ok<List<ResultPageAnswer>>> ListAsync(ResultPageStore pages, CancellationToken cancel) =>
        TypedResults.Ok(await pages.ListAsync(cancel));

    private static async Task<Outcome<ResultPageAnswer>> MakeAsync(
        ResultPageRequest request,
        ResultPageStore pages,
        CancellationToken cancel
    ) => await pages.MakeAsync(request, cancel);

    private static async Task<Outcome<ResultPageAnswer>> ChangeAsync(
        Guid id,
        ResultPageRequest request,
        ResultPageStore pages,
        CancellationToken cancel
    ) => await pages.ChangeAsync(id, request, cancel);

    private static async Task<Refusal?> WithdrawAsync(Guid id, ResultPageStore pages, CancellationToken cancel) =>
        await pages.WithdrawAsync(id, cancel);

    private static async Task<Outcome<ResultsAbout>> AboutAsync(
        string token,
        HttpContext context,
        ResultPageStore pages,
        SharedReport report,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        var (found, refusal) = await FindAsync(token, context, pages, guesses, cancel);
        return found is null ? refusal! : await report.AboutAsync(found, cancel);
    }

    private static async Task<Outcome<ArrivalsAnswer>> ArrivalsAsync(
        string token,
        [AsParameters] SharedQuery query,
        HttpContext context,
        ResultPageStore pages,
        SharedReport report,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        var (found, refusal) = await FindAsync(token, context, pages, guesses, cancel);
        return found is null ? refusal! : await report.ReadAsync(found, query, cancel);
    }

    private static async Task<Outcome<SharedCounts>> CountsAsync(
        string token,
        HttpContext context,
        ResultPageStore pages,
        SharedReport report,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        var (found, refusal) = await FindAsync(token, context, pages, guesses, cancel);
        return found is null ? refusal!
            : await report.CountsAsync(found, cancel) is { } counts ? counts
            : Nothing();
    }

    private static async Task PageAsync(
        string token,
        HttpContext context,
        ResultPageStore pages,
        GuessThrottle guesses,
        ClientFiles client,
        CancellationToken cancel
    )
    {
        if (await pages.FindAsync(token, cancel) is not { } found)
        {
            await SecretPage.NobodyAsync(context, guesses);
            return;
        }

        // Whoever made the page and looks at it needed no page.
        if (context.User.Identity?.IsAuthenticated != true)
        {
            await pages.CountAsync(found.Page, cancel);
        }

        SecretPage.Guard(context);
        await client.WriteAsync(context, ClientFiles.Results, cancel);
    }

    /// <summary>The page of an address. Every call asks the database, so that whoever asks too often waits.</summary>
    private static async Task<Outcome<FoundResults>> FindAsync(
        string token,
        HttpContext context,
        ResultPageStore pages,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        if (!guesses.MayLook(context.Connection.RemoteIpAddress))
        {
            return TooOften();
        }

        if (await pages.FindAsync(token, cancel) is { } found)
        {
            SecretPage.Guard(context);
            return found;
        }

        return guesses.MayGuess(context.Connection.RemoteIpAddress) ? Nothing() : TooOften();
    }

    private static Refusal Nothing() =>
        new(
            RefusalKind.Missing,
            "not-found",
            "The address is mistyped, or the page was withdrawn or has ended. Ask whoever gave it to you for a new one."
        );

    private static Refusal TooOften() => Refusal.TooOften("too-often", "Too much was asked for from here; wait a minute and try again.");
}
