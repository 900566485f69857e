using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Ledger;
using PreciseBeacon.Web.Shorten;

namespace PreciseBeacon.Web.Compose;

/// <summary>Building links: working them out, reading them back, and storing them.</summary>
public static class ComposeEndpoints
{
    private const string IdempotencyHeader = "Idempotency-Key";

    public static void MapCompose(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Compose");
        group.MapGet("/convention/fields", FieldsAsync)
            .WithName("ListFields").WithSummary("Lists the fields of the convention that holds.").For(Caller.Readers);
        group.MapPost("/links/compose", ComposeAsync)
            .WithName("ComposeLink").WithSummary("Works one link out, and stores nothing.").For(Caller.Readers);
        group.MapPost("/links/compose-many", ComposeManyAsync)
            .WithName("ComposeLinks").WithSummary("Works many links out, and stores nothing.").For(Caller.Readers);
        group.MapPost("/links/snippet", SnippetAsync)
            .WithName("ComposeSnippet").WithSummary("Gives the parameters of a placement without a page.").For(Caller.Readers);
        group.MapPost("/links/inspect", InspectAsync)
            .WithName("InspectLink").WithSummary("Reads a tagged URL back into fields, with what is wrong in it.").For(Caller.Readers);
        group.MapPost("/links/inspect-many", InspectManyAsync)
            .WithName("InspectLinks").WithSummary("Reads many tagged URLs back.").For(Caller.Readers);
        group.MapPost("/links", SaveAsync)
            .WithName("SaveLink").WithSummary("Makes a link, with a short link and a code.").For(Caller.Builders);
        group.MapPost("/links/many", SaveManyAsync)
            .WithName("SaveLinks").WithSummary("Makes many links, all of them or none.").For(Caller.Builders);
        group.MapPost("/links/many/with-progress", SaveManyWithProgressAsync)
            .WithName("SaveLinksWithProgress").WithSummary("Makes many links and tells how far it is, line by line.").For(Caller.Builders).Produces<SaveProgress>(contentType: JsonLines.ContentType);
    }

    private static async Task<Ok<IReadOnlyList<FieldAnswer>>> FieldsAsync(ConventionReader conventions, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<FieldAnswer>>([.. convention.Fields.Select(f => FieldAnswer.Of(convention, f))]);
    }

    private static async Task<Results<Ok<ComposeAnswer>, ProblemHttpResult>> ComposeAsync(ComposeRequest request, LinkComposition composition, CancellationToken cancel) =>
        WhyWrong([request]) is { } refusal ? refusal : TypedResults.Ok((await composition.ComposeAsync([request], cancel))[0].Answer);

    private static async Task<Results<Ok<ComposeManyAnswer>, ProblemHttpResult>> ComposeManyAsync(
        ComposeManyRequest request, LinkComposition composition, CancellationToken cancel) =>
        WhyWrong(request.Links) is { } refusal
            ? refusal
            : TypedResults.Ok(new ComposeManyAnswer([.. (await composition.ComposeAsync(request.Links, cancel)).Select(w => w.Answer)]));

    private static async Task<Results<Ok<InspectAnswer>, ProblemHttpResult>> InspectAsync(InspectRequest request, LinkComposition composition, CancellationToken cancel)
    {
        if (request.Url is null)
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "url-missing", "There is no URL to read; send it as “url”.");
        }

        return TypedResults.Ok(InspectAnswer.Of(await composition.InspectAsync(request.Url, request.FoundOn, cancel)));
    }

    private static async Task<Results<Ok<InspectManyAnswer>, ProblemHttpResult>> InspectManyAsync(InspectManyRequest request, LinkComposition composition, CancellationToken cancel) =>
        request.Urls is not { Count: > 0 and <= LinkComposition.MostAtOnce } urls || urls.Any(u => u is null)
            ? Refusal.Of(StatusCodes.Status400BadRequest, "links-count", $"Send 1 to {LinkComposition.MostAtOnce:N0} URLs at once.")
            : TypedResults.Ok(new InspectManyAnswer([.. (await composition.InspectAsync(urls, cancel)).Select(InspectAnswer.Of)]));

    private static async Task<Results<Ok<SnippetAnswer>, ProblemHttpResult>> SnippetAsync(
        SnippetRequest request, LinkComposition composition, IOptions<BeaconOptions> options, CancellationToken cancel)
    {
        if (request.Fields?.Count > 100 || request.Fields?.Values.Any(v => v is null) == true)
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "request-too-large", "A link has at most 100 fields, each a text.");
        }

        var (snippet, placement, campaign) = await composition.ComposeSnippetAsync(request, cancel);
        string pattern = ShortenEndpoint.PatternFor(options.Value.PublicUrl, placement, campaign);
        return TypedResults.Ok(new SnippetAnswer(snippet.ParameterText, snippet.Encoded, pattern, snippet.Fields, snippet.Notices, snippet.Ready));
    }

    private static async Task<Results<Created<SavedLink>, ProblemHttpResult>> SaveAsync(
        ComposeRequest request, HttpContext context, LinkComposition composition, LinkMaker maker, LinkRoutes routes, IdempotentRequest once, CancellationToken cancel)
    {
        if (WhyWrong([request]) is { } refusal)
        {
            return refusal;
        }

        var (saved, refused) = await once.RunAsync<SavedLink>(
            context.Request.Headers[IdempotencyHeader],
            request,
            async () =>
            {
                var worked = await routes.WithEndingsAsync(await composition.ComposeAsync([request], cancel), cancel);
                if (!worked[0].Composed.Ready)
                {
                    throw new RefusedException(NotReady(worked[0].Answer));
                }

                return (await maker.SaveAsync(worked, BeaconClaims.NameOf(context.User), cancel))[0];
            },
            cancel);
        return refused is not null ? refused : TypedResults.Created($"/api/v1/links/{saved!.Id}", saved);
    }

    private static async Task<Results<Ok<SaveManyAnswer>, ProblemHttpResult>> SaveManyAsync(
        ComposeManyRequest request, HttpContext context, LinkComposition composition, LinkMaker maker, LinkRoutes routes, IdempotentRequest once, CancellationToken cancel)
    {
        if (WhyWrong(request.Links) is { } refusal)
        {
            return refusal;
        }

        var (answer, refused) = await SaveAllAsync(request, context, composition, maker, routes, once, null, cancel);
        return refused is not null ? refused : TypedResults.Ok(answer!);
    }

    /// <summary>Saves like <c>links/many</c> and tells on the way how far it is, one line of JSON each time.</summary>
    private static async Task<IResult> SaveManyWithProgressAsync(
        ComposeManyRequest request, HttpContext context, LinkComposition composition, LinkMaker maker, LinkRoutes routes, IdempotentRequest once, CancellationToken cancel)
    {
        if (WhyWrong(request.Links) is { } refusal)
        {
            return refusal;
        }

        int total = request.Links.Count;
        await TellAsync(new SaveProgress(0, total, null, null));
        var (answer, refused) = await SaveAllAsync(request, context, composition, maker, routes, once, done => TellAsync(new SaveProgress(done, total, null, null)), cancel);
        await TellAsync(new SaveProgress(answer?.Saved ?? 0, total, answer, refused?.ProblemDetails.Detail));
        return Results.Empty;

        Task TellAsync(SaveProgress progress) => JsonLines.SendAsync(context, progress, cancel);
    }

    private static Task<(SaveManyAnswer? Answer, ProblemHttpResult? Refusal)> SaveAllAsync(
        ComposeManyRequest request, HttpContext context, LinkComposition composition, LinkMaker maker, LinkRoutes routes, IdempotentRequest once, Func<int, Task>? stored, CancellationToken cancel) =>
        once.RunAsync<SaveManyAnswer>(
            context.Request.Headers[IdempotencyHeader],
            request,
            async () =>
            {
                var worked = await routes.WithEndingsAsync(await composition.ComposeAsync(request.Links, cancel), cancel);
                var saved = await maker.SaveAsync(worked, BeaconClaims.NameOf(context.User), cancel, stored);
                return new SaveManyAnswer([.. worked.Select((w, i) => saved.TryGetValue(i, out var made) ? new SaveOutcome(made, null) : new SaveOutcome(null, w.Answer))], saved.Count);
            },
            cancel);

    private static ProblemHttpResult? WhyWrong(IReadOnlyList<ComposeRequest>? requests)
    {
        if (requests is null || requests.Count is 0 or > LinkComposition.MostAtOnce || requests.Any(r => r is null))
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "links-count", $"Send 1 to {LinkComposition.MostAtOnce:N0} links at once.");
        }

        foreach (var request in requests)
        {
            if (request.Destination is null)
            {
                return Refusal.Of(StatusCodes.Status400BadRequest, "destination-missing", "There is no destination; send the page's address as “destination”.");
            }

            if (ChosenSlugs.Of(request).Select(SlugMaker.WhyNotChosen).FirstOrDefault(w => w is not null) is { } why)
            {
                return Refusal.Of(StatusCodes.Status400BadRequest, "slug-refused", why);
            }

            if (request.Title?.Length > 300 || request.Fields?.Count > 100 || request.Fields?.Values.Any(v => v is null) == true)
            {
                return Refusal.Of(StatusCodes.Status400BadRequest, "request-too-large", "A title has at most 300 characters and a link at most 100 fields, each a text.");
            }
        }

        return null;
    }

    private static ProblemHttpResult NotReady(ComposeAnswer link)
    {
        var stop = link.Notices.First(n => n.Severity == Severity.Error);
        return TypedResults.Problem(
            detail: stop.Message,
            statusCode: StatusCodes.Status422UnprocessableEntity,
            extensions: new Dictionary<string, object?> { ["rule"] = stop.Rule, ["repair"] = stop.Repair, ["link"] = link });
    }
}
