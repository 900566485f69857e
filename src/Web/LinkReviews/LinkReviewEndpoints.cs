using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.LinkReviews;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outside;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.LinkReviews;

/// <summary>Links that are in use, judged by the convention, with the mended list.</summary>
public static class LinkReviewEndpoints
{
    private const int MostShown = 500;

    public static void MapLinkReviews(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Link reviews");
        group
            .MapGet("/link-reviews", async (LinkReviewStore store, CancellationToken cancel) =>
                TypedResults.Ok(await store.ListAsync(cancel))
            )
            .WithName("ListLinkReviews")
            .WithSummary("Lists reviews of links in use.")
            .For(Caller.Readers);
        group
            .MapPost("/link-reviews", JudgeAsync)
            .WithName("ReviewLinks")
            .WithSummary("Reviews the links of a list or sheet, and tells how far it is.")
            .For(Caller.Builders)
            .Produces<LinkReviewProgress>(contentType: JsonLines.ContentType)
            .WithMetadata(new RequestSizeLimitAttribute((SheetFile.MostMegabytes + 1L) << 20));
        group
            .MapPost("/link-reviews/site", SiteAsync)
            .WithName("ReviewSite")
            .WithSummary("Reviews the links on a site's pages, and tells how far it is.")
            .For(Caller.Builders)
            .Produces<LinkReviewProgress>(contentType: JsonLines.ContentType);
        group
            .MapGet("/link-reviews/{id:guid}", OneAsync)
            .WithName("ReadLinkReview")
            .WithSummary("Reads a review: how many links are right, repaired, or to decide.")
            .For(Caller.Readers);
        group
            .MapGet("/link-reviews/{id:guid}/links", LinksAsync)
            .WithName("ListReviewedLinks")
            .WithSummary("Lists the links of a review with their notices.")
            .For(Caller.Readers);
        group
            .MapGet("/link-reviews/{id:guid}/report", ReportAsync)
            .WithName("ShowReviewReport")
            .WithSummary("Shows a review as a page to print.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/html");
        group
            .MapGet("/link-reviews/{id:guid}/result.csv", CsvAsync)
            .WithName("ReadReviewCsv")
            .WithSummary("Gives a review as CSV.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
        group
            .MapGet("/link-reviews/{id:guid}/result.xlsx", XlsxAsync)
            .WithName("ReadReviewWorkbook")
            .WithSummary("Gives a review as a workbook.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
    }

    /// <summary>Judges the links of a list or a sheet, which is the body of the request; <c>name</c> is what it is called.</summary>
    private static async Task<IResult> JudgeAsync(
        HttpContext context,
        LinkReviewStore store,
        CancellationToken cancel,
        string name = "Pasted links"
    )
    {
        var (file, refusal) = await UploadedFile.ReadAsync(context, SheetFile.MostMegabytes, "A list of links", cancel);
        using (file)
        {
            if (refusal is not null)
            {
                return refusal.ToResult();
            }

            try
            {
                var links = await store.LinksOfAsync(file.ToArray(), cancel);
                if (links.Count == 0)
                {
                    return Refusal
                        .Unacceptable(
                            "links-missing",
                            "There are no links in this list; enter one per line, or upload a sheet with a column of links."
                        )
                        .ToResult();
                }

                return await SendAsync(context, progress => store.JudgeAsync(Path.GetFileName(name), links, progress, cancel), cancel);
            }
            catch (SheetException broken)
            {
                return Refusal.Unacceptable("links-refused", broken.Message).ToResult();
            }
        }
    }

    /// <summary>Looks through one of the workspace's sites, page by page.</summary>
    private static async Task<IResult> SiteAsync(
        LinkReviewSiteRequest request,
        HttpContext context,
        BeaconDb db,
        LinkReviewStore store,
        CancellationToken cancel
    ) =>
        await db.Sites.Include(s => s.Hosts).SingleOrDefaultAsync(s => s.Id == request.Site, cancel) is { Hosts.Count: > 0 } site
            ? await SendAsync(context, progress => store.LookThroughAsync(site, progress, cancel), cancel)
            : Refusal.NotFound("site").ToResult();

    private static async Task<IResult> SendAsync(HttpContext context, Func<Func<int, int, Task>, Task<Guid>> work, CancellationToken cancel)
    {
        var last = new LinkReviewProgress(0, 0);
        try
        {
            var id = await work((done, total) => JsonLines.SendAsync(context, last = new LinkReviewProgress(done, total), cancel));
            await JsonLines.SendAsync(context, last with { Id = id }, cancel);
        }
        catch (OutsideException broken)
        {
            await JsonLines.SendAsync(
                context,
                last with
                {
                    Refused = $"{broken.Message} Paste a list of links instead, or try again later.",
                },
                cancel
            );
        }

        return Results.Empty;
    }

    private static async Task<Outcome<LinkReviewAnswer>> OneAsync(Guid id, LinkReviewStore store, CancellationToken cancel) =>
        await store.OneAsync(id, cancel) is { } review ? review : Refusal.NotFound("link review");

    /// <summary><c>state</c> is <c>right</c>, <c>mended</c> or <c>stuck</c>; without it links of every state are given.</summary>
    private static async Task<Outcome<LinkReviewLinksAnswer>> LinksAsync(
        Guid id,
        LinkReviewStore store,
        CancellationToken cancel,
        string? state = null,
        string? rule = null,
        int skip = 0,
        int most = 100
    ) =>
        await store.LinksAsync(
            id,
            Enum.TryParse<LinkReviewState>(state, ignoreCase: true, out var wanted) ? wanted : null,
            rule,
            Math.Max(0, skip),
            Math.Clamp(most, 1, MostShown),
            cancel
        )
            is { } links
            ? links
            : Refusal.NotFound("link review");

    /// <summary>A page without script, to be printed.</summary>
    private static async Task<IResult> ReportAsync(Guid id, HttpContext context, LinkReviewStore store, CancellationToken cancel) =>
        await store.ReportAsync(id, SecurityHeaders.NonceOf(context), cancel) is { } page
            ? Results.Text(page, "text/html; charset=utf-8")
            : Refusal.NotFound("link review").ToResult();

    private static async Task<IResult> CsvAsync(Guid id, LinkReviewStore store, CancellationToken cancel) =>
        await store.TableAsync(id, cancel) is var (name, rows)
            ? Results.Bytes(OwnTable.Csv(rows), "text/csv", $"{Path.GetFileNameWithoutExtension(name)} – link review.csv")
            : Refusal.NotFound("link review").ToResult();

    private static async Task<IResult> XlsxAsync(Guid id, LinkReviewStore store, CancellationToken cancel) =>
        await store.TableAsync(id, cancel) is var (name, rows)
            ? Results.Bytes(
                PlainWorkbook.Write(rows, "Link review"),
                ConventionSheet.ContentType,
                $"{Path.GetFileNameWithoutExtension(name)} – link review.xlsx"
            )
            : Refusal.NotFound("link review").ToResult();
}
