using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Codes;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Plan;

/// <summary>Handing links over to partners, and what they find at the address they were given.</summary>
public static class PartnerPageEndpoints
{
    private const decimal CodeMillimetres = 30;

    public static void MapPartnerPages(RouteGroupBuilder group)
    {
        group
            .MapGet("/partner-pages", ListAsync)
            .WithName("ListPartnerPages")
            .WithSummary("Lists pages made for partners.")
            .For(Caller.Readers);
        group
            .MapPost("/partner-pages", MakeAsync)
            .WithName("MakePartnerPage")
            .WithSummary("Makes a page with a partner's links.")
            .For(Caller.Builders);
        group
            .MapPost("/partner-pages/{id:guid}/revoke", RevokeAsync)
            .WithName("RevokePartnerPage")
            .WithSummary("Takes a partner's page down.")
            .For(Caller.Builders);
    }

    /// <summary>The addresses partners get.</summary>
    public static void MapHandOverPages(this IEndpointRouteBuilder app)
    {
        var pages = app.MapGroup("/for/{token}").ExcludeFromDescription();
        pages.MapGet("", PageAsync).For(Caller.Anybody);
        pages.MapGet("/links.csv", CsvAsync).For(Caller.Anybody);
        pages.MapGet("/links.xlsx", XlsxAsync).For(Caller.Anybody);
        pages.MapGet("/codes/{id:guid}.svg", CodeAsync).For(Caller.Anybody);
    }

    private static async Task<Ok<List<PartnerPageAnswer>>> ListAsync(PartnerPageStore handOvers, CancellationToken cancel) =>
        TypedResults.Ok(await handOvers.ListAsync(cancel));

    private static async Task<Outcome<PartnerPageAnswer>> MakeAsync(
        PartnerPageRequest request,
        PartnerPageStore handOvers,
        CancellationToken cancel
    ) => await handOvers.MakeAsync(request, cancel);

    private static async Task<Refusal?> RevokeAsync(Guid id, PartnerPageStore handOvers, CancellationToken cancel) =>
        await handOvers.RevokeAsync(id, cancel) ? null : Refusal.NotFound("page");

    private static async Task PageAsync(
        string token,
        HttpContext context,
        PartnerPageStore handOvers,
        PageTexts texts,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        if (await handOvers.FindAsync(token, cancel) is not var (page, workspace))
        {
            await SecretPage.NobodyAsync(context, guesses);
            return;
        }

        // Whoever made the page and looks at it is no partner.
        if (context.User.Identity?.IsAuthenticated != true)
        {
            await handOvers.CountAsync(page, cancel);
        }

        SecretPage.Guard(context);
        context.Response.ContentType = "text/html; charset=utf-8";
        await context.Response.WriteAsync(
            PartnerPageHtml.Draw(page, workspace, await handOvers.LinksAsync(page, texts, cancel), SecurityHeaders.NonceOf(context)),
            cancel
        );
    }

    private static Task<IResult> CsvAsync(
        string token,
        HttpContext context,
        PartnerPageStore handOvers,
        PageTexts texts,
        GuessThrottle guesses,
        CancellationToken cancel
    ) =>
        FileAsync(
            token,
            context,
            handOvers,
            texts,
            guesses,
            links => Results.Bytes(OwnTable.Csv(PartnerPageHtml.Rows(links)), OwnTable.CsvType, "links.csv"),
            cancel
        );

    private static Task<IResult> XlsxAsync(
        string token,
        HttpContext context,
        PartnerPageStore handOvers,
        PageTexts texts,
        GuessThrottle guesses,
        CancellationToken cancel
    ) =>
        FileAsync(
            token,
            context,
            handOvers,
            texts,
            guesses,
            links => Results.Bytes(OwnTable.Xlsx(PartnerPageHtml.Rows(links), "Links"), ConventionSheet.ContentType, "links.xlsx"),
            cancel
        );

    private static Task<IResult> CodeAsync(
        string token,
        Guid id,
        HttpContext context,
        PartnerPageStore handOvers,
        PageTexts texts,
        GuessThrottle guesses,
        CancellationToken cancel
    ) =>
        FileAsync(
            token,
            context,
            handOvers,
            texts,
            guesses,
            links => links.FirstOrDefault(l => l.Id == id)?.CodeSays is { } says ? Drawn(says) : Refusal.NotFound("code").ToResult(),
            cancel
        );

    private static IResult Drawn(string says)
    {
        var proof = CodeProof.Prove(CodeDrawing.Of(says, new CodeStyle(CodeMillimetres)), says, CodeFormat.Svg);
        return CodeProof.WhyNot(proof) is { } reason
            ? Refusal.Unacceptable("code-unreadable", reason).ToResult()
            : Results.Text(proof.Preview, "image/svg+xml; charset=utf-8");
    }

    private static async Task<IResult> FileAsync(
        string token,
        HttpContext context,
        PartnerPageStore handOvers,
        PageTexts texts,
        GuessThrottle guesses,
        Func<IReadOnlyList<HandedLink>, IResult> draw,
        CancellationToken cancel
    )
    {
        if (await handOvers.FindAsync(token, cancel) is not var (page, _))
        {
            await SecretPage.NobodyAsync(context, guesses);
            return Results.Empty;
        }

        SecretPage.Guard(context);
        return draw(await handOvers.LinksAsync(page, texts, cancel));
    }
}
