using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Compose;

/// <summary>Building links: working them out, reading them back, and storing them.</summary>
public static class ComposeEndpoints
{
    private const string IdempotencyHeader = "Idempotency-Key";

    public static void MapCompose(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Compose");
        group
            .MapGet("/convention/fields", FieldsAsync)
            .WithName("ListFields")
            .WithSummary("Lists the fields of the convention that holds.")
            .For(Caller.Readers);
        group
            .MapPost("/links/compose", ComposeAsync)
            .WithName("ComposeLink")
            .WithSummary("Works one link out, and stores nothing.")
            .For(Caller.Readers);
        group
            .MapPost("/links/compose-many", ComposeManyAsync)
            .WithName("ComposeLinks")
            .WithSummary("Works many links out, and stores nothing.")
            .For(Caller.Readers);
        group
            .MapPost("/links/snippet", SnippetAsync)
            .WithName("ComposeSnippet")
            .WithSummary("Gives the parameters of a placement without a page.")
            .For(Caller.Readers);
        group
            .MapPost("/links/inspect", InspectAsync)
            .WithName("InspectLink")
            .WithSummary("Reads a tagged URL back into fields, with what is wrong in it.")
            .For(Caller.Readers);
        group
            .MapPost("/links/inspect-many", InspectManyAsync)
            .WithName("InspectLinks")
            .WithSummary("Reads many tagged URLs back.")
            .For(Caller.Readers);
        group
            .MapPost("/links", SaveAsync)
            .WithName("SaveLink")
            .WithSummary("Makes a link, with a short link and a code.")
            .For(Caller.Builders);
        group
            .MapPost("/links/many", SaveManyAsync)
            .WithName("SaveLinks")
            .WithSummary("Makes many links, all of them or none.")
            .For(Caller.Builders);
        group
            .MapPost("/links/many/with-progress", SaveManyWithProgressAsync)
            .WithName("SaveLinksWithProgress")
            .WithSummary("Makes many links and tells how far it is, line by line.")
            .For(Caller.Builders)
            .Produces<SaveProgress>(contentType: JsonLines.ContentType);
    }

    private static async Task<Ok<IReadOnlyList<FieldAnswer>>> FieldsAsync(ConventionReader conventions, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<FieldAnswer>>([.. convention.Fields.Select(f => FieldAnswer.Of(convention, f))]);
    }

    private static async Task<Outcome<ComposeAnswer>> ComposeAsync(
        ComposeRequest request,
        LinkComposition composition,
        CancellationToken cancel
    ) => WhyWrong([request]) is { } refusal ? refusal : ComposeAnswer.Of((await composition.ComposeAsync([request], cancel))[0]);

    private static async Task<Outcome<ComposeManyAnswer>> ComposeManyAsync(
        ComposeManyRequest request,
        LinkComposition composition,
        CancellationToken cancel
    ) =>
        WhyWrong(request.Links) is { } refusal
            ? refusal
            : new ComposeManyAnswer([.. (await composition.ComposeAsync(request.Links, cancel)).Select(ComposeAnswer.Of)]);

    private static async Task<Outcome<InspectAnswer>> InspectAsync(
        InspectRequest request,
        LinkComposition composition,
        CancellationToken cancel
    )
    {
        if (request.Url is null)
        {
            return Refusal.Invalid("url-missing", "Send the URL as “url”.");
        }

        return InspectAnswer.Of((await composition.InspectAsync([request.Url], cancel, request.FoundOn))[0]);
    }

    private static async Task<Outcome<InspectManyAnswer>> InspectManyAsync(
        InspectManyRequest request,
        LinkComposition composition,
        CancellationToken cancel
    ) =>
        request.Urls is not { Count: > 0 and <= LinkComposition.MostAtOnce } urls || urls.Any(u => u is null)
            ? Refusal.Invalid("links-count", $"Send 1 to {LinkComposition.MostAtOnce:N0} URLs at once.")
            : new InspectManyAnswer([.. (await composition.InspectAsync(urls, cancel)).Select(InspectAnswer.Of)]);

    private static async Task<Outcome<SnippetAnswer>> SnippetAsync(
        SnippetRequest request,
        LinkComposition composition,
        IOptions<BeaconOptions> options,
        CancellationToken cancel
    )
    {
        if (request.Fields?.Count > 100 || request.Fields?.Values.Any(v => v is null) == true)
        {
            return Refusal.Invalid("request-too-large", "A link has at most 100 fields, each a text.");
        }

        var (snippet, placement, campaign) = await composition.ComposeSnippetAsync(
            request.Campaign,
            request.Placement,
            request.Fields ?? [],
            cancel
        );
        string pattern = ShortenPattern.For(options.Value.PublicUrl, placement?.Name, campaign?.Name);
        return new SnippetAnswer(snippet.ParameterText, snippet.Encoded, pattern, snippet.Fields, snippet.Notices, snippet.Ready);
    }

    private static async Task<Results<Created<SavedLink>, ProblemHttpResult>> SaveAsync(
        ComposeRequest request,
        HttpContext context,
        LinkComposition composition,
        LinkWriter writer,
        LinkEndings endings,
        IdempotentRequest once,
        CancellationToken cancel
    )
    {
        if (WhyWrong([request]) is { } refusal)
        {
            return refusal.ToResult();
        }

        var outcome = await once.RunAsync<SavedLink>(
            context.Request.Headers[IdempotencyHeader],
            request,
            async () =>
            {
                var ended = await endings.SettleAsync(await composition.ComposeAsync([request], cancel), cancel);
                return ended.IsRefused ? ended.Refusal
                    : !ended.Value[0].Composed.Ready ? NotReady(ComposeAnswer.Of(ended.Value[0]))
                    : (await writer.SaveAsync(ended.Value, BeaconClaims.NameOf(context.User), cancel)).Then(saved =>
                        SavedLink.Of(saved[0])
                    );
            },
            cancel
        );
        return outcome.ToCreated(saved => $"/api/v1/links/{saved.Id}");
    }

    private static async Task<Outcome<SaveManyAnswer>> SaveManyAsync(
        ComposeManyRequest request,
        HttpContext context,
        LinkComposition composition,
        LinkWriter writer,
        LinkEndings endings,
        IdempotentRequest once,
        CancellationToken cancel
    )
    {
        if (WhyWrong(request.Links) is { } refusal)
        {
            return refusal;
        }

        return await SaveAllAsync(request, context, composition, writer, endings, once, null, cancel);
    }

    /// <summary>Saves like <c>links/many</c> and tells on the way how far it is, one line of JSON each time.</summary>
    private static async Task<IResult> SaveManyWithProgressAsync(
        ComposeManyRequest request,
        HttpContext context,
        LinkComposition composition,
        LinkWriter writer,
        LinkEndings endings,
        IdempotentRequest once,
        CancellationToken cancel
    )
    {
        if (WhyWrong(request.Links) is { } refusal)
        {
            return refusal.ToResult();
        }

        int total = request.Links.Count;
        await TellAsync(new SaveProgress(0, total, null, null));
        var (answer, refused) = await SaveAllAsync(
            request,
            context,
            composition,
            writer,
            endings,
            once,
            done => TellAsync(new SaveProgress(done, total, null, null)),
            cancel
        );
        await TellAsync(new SaveProgress(answer?.Saved ?? 0, total, answer, refused?.Message));
        return Results.Empty;

        Task TellAsync(SaveProgress progress) => JsonLines.SendAsync(context, progress, cancel);
    }

    private static Task<Outcome<SaveManyAnswer>> SaveAllAsync(
        ComposeManyRequest request,
        HttpContext context,
        LinkComposition composition,
        LinkWriter writer,
        LinkEndings endings,
        IdempotentRequest once,
        Func<int, Task>? stored,
        CancellationToken cancel
    ) =>
        once.RunAsync<SaveManyAnswer>(
            context.Request.Headers[IdempotencyHeader],
            request,
            async () =>
            {
                var ended = await endings.SettleAsync(await composition.ComposeAsync(request.Links, cancel), cancel);
                return ended.IsRefused
                    ? ended.Refusal
                    : (await writer.SaveAsync(ended.Value, BeaconClaims.NameOf(context.User), cancel, stored)).Then(saved =>
                        SaveManyAnswer.Of(ended.Value, saved)
                    );
            },
            cancel
        );

    private static Refusal? WhyWrong(IReadOnlyList<ComposeRequest>? requests)
    {
        if (requests is null || requests.Count is 0 or > LinkComposition.MostAtOnce || requests.Any(r => r is null))
        {
            return Refusal.Invalid("links-count", $"Send 1 to {LinkComposition.MostAtOnce:N0} links at once.");
        }

        foreach (var request in requests)
        {
            if (request.Destination is null)
            {
                return Refusal.Invalid("destination-missing", "There is no destination; send the page's address as “destination”.");
            }

            if (LinkSlugs.Chosen(request).Select(SlugMaker.WhyNotChosen).FirstOrDefault(w => w is not null) is { } why)
            {
                return Refusal.Invalid("slug-refused", why);
            }

            if (request.Title?.Length > 300 || request.Fields?.Count > 100 || request.Fields?.Values.Any(v => v is null) == true)
            {
                return Refusal.Invalid(
                    "request-too-large",
                    "A title has at most 300 characters and a link at most 100 fields, each a text."
                );
            }
        }

        return null;
    }

    private static Refusal NotReady(ComposeAnswer link)
    {
        var stop = link.Notices.First(n => n.Severity == Severity.Error);
        return Refusal.Unacceptable(stop.Rule, stop.Message) with
        {
            More = new Dictionary<string, object?> { ["repair"] = stop.Repair, ["link"] = link },
        };
    }
}
