using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Slugs of a shortener that closes: looked at first, then taken over.</summary>
public static class SlugImportEndpoints
{
    public static void MapSlugImport(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/slugs").WithTags("Ledger");
        group
            .MapPost("/read", ReadAsync)
            .WithName("ReadSlugList")
            .WithSummary("Looks short links of another shortener over, and stores nothing.")
            .For(Caller.Builders)
            .Produces<SlugImportAnswer>()
            .WithMetadata(new RequestSizeLimitAttribute((SheetFile.MostMegabytes + 1L) << 20));
        group
            .MapPost("/import", ImportAsync)
            .WithName("ImportSlugs")
            .WithSummary("Takes short links of another shortener over.")
            .For(Caller.Builders);
        group
            .MapGet("/check", CheckAsync)
            .WithName("CheckSlug")
            .WithSummary("Tells whether a slug is free, what looks like it, and which others are free.")
            .For(Caller.Readers);
    }

    /// <summary>Reads a list, which is the body of the request: a sheet with a column of slugs and one of destinations.</summary>
    private static async Task<IResult> ReadAsync(HttpContext context, SlugImport import, CancellationToken cancel, string? domain = null)
    {
        var (file, refusal) = await UploadedFile.ReadAsync(context, SheetFile.MostMegabytes, "A list of slugs", cancel);
        using (file)
        {
            if (refusal is not null)
            {
                return refusal.ToResult();
            }

            try
            {
                return Results.Ok(await import.ReadAsync(file.ToArray(), domain, cancel));
            }
            catch (SheetException broken)
            {
                return Refusal.Unacceptable("slugs-refused", broken.Message).ToResult();
            }
        }
    }

    private static async Task<Outcome<SlugImportAnswer>> ImportAsync(
        SlugImportRequest slugs,
        SlugImport import,
        CancellationToken cancel
    ) => await import.ImportAsync(slugs.Rows ?? [], slugs.Printed, slugs.Domain, cancel);

    private static async Task<Ok<SlugCheckAnswer>> CheckAsync(
        SlugAdvice advice,
        CancellationToken cancel,
        string? slug = null,
        string? domain = null,
        string? page = null,
        string? campaign = null,
        string? placement = null
    ) => TypedResults.Ok(await advice.CheckAsync(slug, domain, page, campaign, placement, cancel));
}
