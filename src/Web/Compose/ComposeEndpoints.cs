using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Compose;

/// <summary>Building links: working them out, reading them back, and storing them.</summary>
public static class ComposeEndpoints
{
    private const string IdempotencyHeader = "Idempotency-Key";

    public static void MapCompose(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Compose");
        group.MapGet("/convention/fields", FieldsAsync);
        group.MapGet("/campaigns", CampaignsAsync);
        group.MapGet("/placements", PlacementsAsync);
        group.MapPost("/links/compose", ComposeAsync);
        group.MapPost("/links/compose-many", ComposeManyAsync);
        group.MapPost("/links/inspect", InspectAsync);
        group.MapPost("/links", SaveAsync);
        group.MapPost("/links/many", SaveManyAsync);
    }

    private static async Task<Ok<IReadOnlyList<FieldAnswer>>> FieldsAsync(ConventionReader conventions, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<FieldAnswer>>([.. convention.Fields.Select(f => FieldAnswer.Of(convention, f))]);
    }

    private static async Task<Ok<List<CampaignAnswer>>> CampaignsAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Campaigns
            .OrderByDescending(c => c.StartsOn).ThenBy(c => c.Name)
            .Select(c => new CampaignAnswer(c.Id, c.Name, c.Value, c.StartsOn, c.EndsOn))
            .ToListAsync(cancel));

    private static async Task<Ok<List<PlacementAnswer>>> PlacementsAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.Placements
            .OrderBy(p => p.Position).ThenBy(p => p.Name)
            .Select(p => new PlacementAnswer(p.Id, p.Name, p.Channel, p.Standing))
            .ToListAsync(cancel));

    private static async Task<Results<Ok<ComposeAnswer>, ProblemHttpResult>> ComposeAsync(ComposeRequest request, LinkWorkshop workshop, CancellationToken cancel) =>
        WhyWrong([request]) is { } refusal ? refusal : TypedResults.Ok((await workshop.ComposeAsync([request], cancel))[0].Answer);

    private static async Task<Results<Ok<ComposeManyAnswer>, ProblemHttpResult>> ComposeManyAsync(
        ComposeManyRequest request, LinkWorkshop workshop, CancellationToken cancel) =>
        WhyWrong(request.Links) is { } refusal
            ? refusal
            : TypedResults.Ok(new ComposeManyAnswer([.. (await workshop.ComposeAsync(request.Links, cancel)).Select(w => w.Answer)]));

    private static async Task<Results<Ok<InspectAnswer>, ProblemHttpResult>> InspectAsync(InspectRequest request, LinkWorkshop workshop, CancellationToken cancel)
    {
        if (request.Url is null)
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "url-missing", "There is no URL to read; send it as “url”.");
        }

        var link = await workshop.InspectAsync(request.Url, request.FoundOn, cancel);
        return TypedResults.Ok(new InspectAnswer(
            link.Destination,
            link.Mended?.Fields ?? [],
            [.. link.Others.Select(o => new OtherPair(o.Key, o.Value))],
            link.Notices,
            link.Mended?.Tagged?.Url,
            link.Mended?.Tagged?.Strip ?? []));
    }

    private static async Task<Results<Created<SavedLink>, ProblemHttpResult>> SaveAsync(
        ComposeRequest request, HttpContext context, LinkWorkshop workshop, LinkMaker maker, OnceOnly once, CancellationToken cancel)
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
                var worked = await workshop.ComposeAsync([request], cancel);
                return worked[0].Composed.Ready
                    ? (await maker.SaveAsync(worked, BeaconClaims.NameOf(context.User), cancel))[0]
                    : throw new RefusedException(NotReady(worked[0].Answer));
            },
            cancel);
        return refused is not null ? refused : TypedResults.Created($"/api/v1/links/{saved!.Id}", saved);
    }

    private static async Task<Results<Ok<SaveManyAnswer>, ProblemHttpResult>> SaveManyAsync(
        ComposeManyRequest request, HttpContext context, LinkWorkshop workshop, LinkMaker maker, OnceOnly once, CancellationToken cancel)
    {
        if (WhyWrong(request.Links) is { } refusal)
        {
            return refusal;
        }

        var (answer, refused) = await once.RunAsync<SaveManyAnswer>(
            context.Request.Headers[IdempotencyHeader],
            request,
            async () =>
            {
                var worked = await workshop.ComposeAsync(request.Links, cancel);
                var saved = await maker.SaveAsync(worked, BeaconClaims.NameOf(context.User), cancel);
                return new SaveManyAnswer([.. worked.Select((w, i) => new SaveOutcome(saved.GetValueOrDefault(i), w.Answer))], saved.Count);
            },
            cancel);
        return refused is not null ? refused : TypedResults.Ok(answer!);
    }

    private static ProblemHttpResult? WhyWrong(IReadOnlyList<ComposeRequest>? requests)
    {
        if (requests is null || requests.Count is 0 or > LinkWorkshop.MostAtOnce || requests.Any(r => r is null))
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "links-count", $"Send 1 to {LinkWorkshop.MostAtOnce:N0} links at once.");
        }

        foreach (var request in requests)
        {
            if (request.Destination is null)
            {
                return Refusal.Of(StatusCodes.Status400BadRequest, "destination-missing", "There is no destination; send the page's address as “destination”.");
            }

            if (!string.IsNullOrWhiteSpace(request.Slug) && SlugMaker.WhyRefused(request.Slug.Trim()) is { } why)
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
        var stop = link.Notices.First(n => n.Severity == Severity.Stop);
        return TypedResults.Problem(
            detail: stop.Message,
            statusCode: StatusCodes.Status422UnprocessableEntity,
            extensions: new Dictionary<string, object?> { ["rule"] = stop.Rule, ["repair"] = stop.Repair, ["link"] = link });
    }
}
