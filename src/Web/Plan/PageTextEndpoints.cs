using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Share texts, and which links are placed.</summary>
public static class PageTextEndpoints
{
    public static void MapPageTexts(RouteGroupBuilder group)
    {
        group
            .MapGet("/share-texts", PagesAsync)
            .WithName("ListShareTexts")
            .WithSummary("Lists the texts to post, by page.")
            .For(Caller.Readers);
        group
            .MapPost("/share-texts/fill", FillAsync)
            .WithName("FillShareTexts")
            .WithSummary("Fills a text for each placement with its link.")
            .For(Caller.Readers);
        group.MapPut("/share-texts", KeepAsync).WithName("SaveShareText").WithSummary("Saves a text to post.").For(Caller.Builders);
        group
            .MapPost("/links/{id:guid}/placed", PlaceAsync)
            .WithName("MarkPlaced")
            .WithSummary("Marks a link as placed, or takes the mark away.")
            .For(Caller.Builders);
    }

    private static async Task<Ok<List<SharePageAnswer>>> PagesAsync(Guid campaign, PageTexts texts, CancellationToken cancel) =>
        TypedResults.Ok(await texts.PagesAsync(campaign, cancel));

    private static async Task<Outcome<FilledTexts>> FillAsync(PageTextRequest request, PageTexts texts, CancellationToken cancel) =>
        request.Text?.Length > PageTexts.LongestText
            ? Refusal.Invalid("text-refused", $"A share text has at most {PageTexts.LongestText:N0} characters.")
            : await texts.FillAsync(request, cancel);

    private static Task<Outcome<KeptText>> KeepAsync(PageTextRequest request, PageTexts texts, CancellationToken cancel) =>
        texts.KeepAsync(request, cancel);

    private static async Task<Refusal?> PlaceAsync(Guid id, PlacedRequest request, PageTexts texts, CancellationToken cancel) =>
        await texts.PlaceAsync(id, request.Placed, cancel) ? null : Refusal.NotFound("link");
}

/// <summary>A text that was kept, under its new revision.</summary>
public sealed record KeptText(int Revision);
