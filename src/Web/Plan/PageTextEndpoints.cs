using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Share texts, and which links stand where they belong.</summary>
public static class PageTextEndpoints
{
    public static void MapPageTexts(RouteGroupBuilder group)
    {
        group.MapGet("/share-texts", PagesAsync);
        group.MapPost("/share-texts/fill", FillAsync);
        group.MapPut("/share-texts", KeepAsync);
        group.MapPost("/links/{id:guid}/placed", PlaceAsync);
    }

    private static async Task<Ok<List<SharePageAnswer>>> PagesAsync(Guid campaign, PageTexts texts, CancellationToken cancel) =>
        TypedResults.Ok(await texts.PagesAsync(campaign, cancel));

    private static async Task<Results<Ok<FilledTexts>, ProblemHttpResult>> FillAsync(PageTextRequest request, PageTexts texts, CancellationToken cancel) =>
        request.Text?.Length > PageTexts.LongestText
            ? Refusal.Of(StatusCodes.Status400BadRequest, "text-refused", $"A share text has at most {PageTexts.LongestText:N0} characters.")
            : TypedResults.Ok(await texts.FillAsync(request, cancel));

    private static async Task<Results<Ok<KeptText>, ProblemHttpResult>> KeepAsync(PageTextRequest request, PageTexts texts, CancellationToken cancel)
    {
        var (revision, refusal) = await texts.KeepAsync(request, cancel);
        return refusal is not null ? refusal : TypedResults.Ok(new KeptText(revision));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> PlaceAsync(Guid id, PlacedRequest request, PageTexts texts, CancellationToken cancel) =>
        await texts.PlaceAsync(id, request.Placed, cancel) ? TypedResults.NoContent() : Refusal.NotFound("link");
}

/// <summary>A text that was kept, under its new revision.</summary>
public sealed record KeptText(int Revision);
