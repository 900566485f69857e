using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.LinkReviews;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.LinkReviews;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outside;

namespace PreciseBeacon.Web.LinkReviews;

/// <summary>Looks at links that are in use, and keeps the notices about them.</summary>
public sealed class LinkReviewStore(
    BeaconDb db,
    LinkComposition composition,
    ConventionReader conventions,
    SiteLinks siteLinks,
    AuditLog auditLog,
    TimeProvider clock
)
{
    private const int AtOnce = 500;
    private const int MostProblems = 100;
    private const int LongestName = 200;
    private const int MostPrinted = 2_000;
    private static readonly string[] Headings = ["Number", "Link", "Found on", "State", "Notices", "Repaired link"];

    /// <summary>The links of a list or a sheet.</summary>
    /// <exception cref="SheetException">There are none, or the file can't be read; the message is one sentence.</exception>
    public async Task<IReadOnlyList<UsedLink>> LinksOfAsync(byte[] file, CancellationToken cancel)
    {
        bool isWorkbook = file is [(byte)'P', (byte)'K', ..];
        var links = isWorkbook ? null : LinkList.OfText(FileText.Decode(file, FileText.Recognise(file).Encoding));
        links ??= LinkList.OfTable(SheetFile.Read(file, cancel), await conventions.ReadAsync(cancel))
            ?? throw new SheetException(
                "No column of this sheet looks like links; give the column a heading such as “Link”, or paste the links alone, one a line."
            );
        return links.Count > SheetLimits.MostRows
            ? throw new SheetException($"A link review has at most {SheetLimits.MostRows:N0} links; split the list.")
            : links;
    }

    /// <summary>Judges links and keeps the link review.</summary>
    /// <param name="name">What was looked at.</param>
    /// <param name="links">The links.</param>
    /// <param name="progress">Told how many are judged.</param>
    /// <param name="cancel">Gives up; nothing is kept then.</param>
    public async Task<Guid> JudgeAsync(
        string name,
        IReadOnlyList<UsedLink> links,
        Func<int, int, Task> progress,
        CancellationToken cancel
    ) => await KeepAsync(name, links, null, [], tagsOnly: false, progress, cancel);

    /// <summary>Looks through a site's pages: tagged links on them are judged, with where they stand.</summary>
    /// <exception cref="OutsideException">Its sitemap can't be read.</exception>
    public async Task<Guid> LookThroughAsync(Site site, Func<int, int, Task> progress, CancellationToken cancel)
    {
        var (links, pages, problems) = await siteLinks.ReadAsync(site, progress, cancel);
        return await KeepAsync(site.Name, links, pages, problems, tagsOnly: true, (_, _) => Task.CompletedTask, cancel);
    }

    /// <summary>Every link review, newest first.</summary>
    public async Task<List<LinkReviewSummary>> ListAsync(CancellationToken cancel) =>
        await db
            .LinkReviews.AsNoTracking()
            .OrderByDescending(a => a.CreatedAt)
            .Take(500)
            .Select(a => new LinkReviewSummary(a.Id, a.Name, a.Right, a.Mended, a.Stuck, a.Pages, a.CreatedBy, a.CreatedAt))
            .ToListAsync(cancel);

    /// <summary>A link review with its notices counted; null when there is none.</summary>
    public async Task<LinkReviewAnswer?> OneAsync(Guid id, CancellationToken cancel)
    {
        if (await db.LinkReviews.AsNoTracking().SingleOrDefaultAsync(a => a.Id == id, cancel) is not { } review)
        {
            return null;
        }

        var counted = await LinkReviewCounts.ReadAsync(db, id, cancel);
        var known = NoticeRules.All.ToDictionary(r => r.Name);
        return new LinkReviewAnswer(
            review.Id,
            review.Name,
            review.Right,
            review.Mended,
            review.Stuck,
            review.Pages,
            review.Problems,
            [
                .. counted
                    .Select(c => new LinkReviewRule(c.Rule, known[c.Rule].Severity, known[c.Rule].About, c.Links, c.Mended, c.Example))
                    .OrderByDescending(r => r.Severity)
                    .ThenByDescending(r => r.Links)
                    .ThenBy(r => r.Rule),
            ],
            review.ConventionVersion,
            review.CreatedBy,
            review.CreatedAt
        );
    }

    /// <summary>Links of a link review, in the order they were uploaded; null when there is no such link review.</summary>
    public async Task<LinkReviewLinksAnswer?> LinksAsync(
        Guid id,
        LinkReviewState? state,
        string? rule,
        int skip,
        int most,
        CancellationToken cancel
    )
    {
        if (!await db.LinkReviews.AnyAsync(a => a.Id == id, cancel))
        {
            return null;
        }

        var links = db
            .ReviewedLinks.AsNoTracking()
            .Where(l => l.LinkReviewId == id && (state == null || l.State == state) && (rule == null || l.Rules.Contains(rule)));
        return new LinkReviewLinksAnswer(
            await links
                .OrderBy(l => l.Number)
                .Skip(skip)
                .Take(most)
                .Select(l => new LinkReviewLinkAnswer(l.Number, l.Link, l.FoundOn, l.State, l.MendedUrl, l.Rules, l.Says))
                .ToListAsync(cancel),
            await links.CountAsync(cancel)
        );
    }

    /// <summary>The link review as a page to be printed; null when there is no such link review.</summary>
    public async Task<string?> ReportAsync(Guid id, string nonce, CancellationToken cancel)
    {
        if (await OneAsync(id, cancel) is not { } review)
        {
            return null;
        }

        string workspace = await db.Workspaces.Where(w => w.Id == db.CurrentWorkspaceId).Select(w => w.Name).SingleAsync(cancel);
        var faulty = await db
            .ReviewedLinks.AsNoTracking()
            .Where(l => l.LinkReviewId == id && l.State != LinkReviewState.Right)
            .OrderBy(l => l.Number)
            .Take(MostPrinted)
            .Select(l => new LinkReviewLinkAnswer(l.Number, l.Link, l.FoundOn, l.State, l.MendedUrl, l.Rules, l.Says))
            .ToListAsync(cancel);
        return LinkReviewReport.Draw(review, workspace, faulty, review.Mended + review.Stuck - faulty.Count, nonce);
    }

    /// <summary>A link review as a table: headings, then a row for each link.</summary>
    public async Task<(string Name, List<IReadOnlyList<string>> Rows)?> TableAsync(Guid id, CancellationToken cancel)
    {
        if (await db.LinkReviews.Where(a => a.Id == id).Select(a => a.Name).SingleOrDefaultAsync(cancel) is not { } name)
        {
            return null;
        }

        var rows = new List<IReadOnlyList<string>> { Headings };
        await foreach (
            var link in db
                .ReviewedLinks.AsNoTracking()
                .Where(l => l.LinkReviewId == id)
                .OrderBy(l => l.Number)
                .AsAsyncEnumerable()
                .WithCancellation(cancel)
        )
        {
            rows.Add([
                link.Number.ToString(System.Globalization.CultureInfo.InvariantCulture),
                link.Link,
                link.FoundOn ?? "",
                link.State switch
                {
                    LinkReviewState.Right => "right",
                    LinkReviewState.Mended => "repaired",
                    _ => "to decide",
                },
                string.Join(' ', link.Says),
                link.MendedUrl ?? "",
            ]);
        }

        return (name, rows);
    }

    private async Task<Guid> KeepAsync(
        string name,
        IReadOnlyList<UsedLink> links,
        int? pages,
        List<string> problems,
        bool tagsOnly,
        Func<int, int, Task> progress,
        CancellationToken cancel
    )
    {
        var review = new LinkReview
        {
            Name = name.Length is 0 or > LongestName ? "Links" : name,
            Pages = pages,
            Problems = [.. problems.Take(MostProblems)],
            ConventionVersion = (await conventions.ReadAsync(cancel)).Version,
            CreatedBy = auditLog.Who,
            CreatedAt = clock.GetUtcNow(),
        };
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        db.LinkReviews.Add(review);
        await db.SaveChangesAsync(cancel);
        int number = 0,
            done = 0;
        foreach (var some in links.Chunk(AtOnce))
        {
            var judged = new List<ReviewedLink>(some.Length);
            foreach (var onPage in some.GroupBy(l => tagsOnly ? l.FoundOn : null))
            {
                var here = onPage.ToList();
                var inspected = await composition.InspectAsync([.. here.Select(l => l.Link)], cancel, onPage.Key, decodeTwice: true);
                var better = here.Zip(inspected, (l, read) => LinkReviewJudgement.MendedOf(l.Link, read)).ToList();
                string[] mended = [.. better.OfType<string>().Distinct()];
                var again = mended
                    .Zip(mended.Length == 0 ? [] : await composition.InspectAsync(mended, cancel, onPage.Key, decodeTwice: true))
                    .ToDictionary(m => m.First, m => m.Second);
                foreach (var (link, read, mendedUrl) in here.Zip(inspected, better))
                {
                    // On a site's own pages most links have no tags, and should have none.
                    if (!tagsOnly || read.Notices.All(n => n.Rule != NoticeRules.NoTags.Name))
                    {
                        judged.Add(Keep(review, link, read, mendedUrl is null ? null : again[mendedUrl], ++number));
                    }
                }
            }

            await LinkReviewCopy.WriteAsync((NpgsqlConnection)db.Database.GetDbConnection(), judged, cancel);
            done += some.Length;
            await progress(done, links.Count);
        }

        auditLog.Add(
            "link-review",
            review.Id,
            null,
            new
            {
                review.Name,
                review.Right,
                review.Mended,
                review.Stuck,
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return review.Id;
    }

    private static ReviewedLink Keep(LinkReview review, UsedLink link, InspectedLink read, InspectedLink? mended, int number)
    {
        var judgement = LinkReviewJudgement.Of(link.Link, read, mended);
        _ = judgement.State switch
        {
            LinkReviewState.Right => review.Right++,
            LinkReviewState.Mended => review.Mended++,
            _ => review.Stuck++,
        };
        var notices = judgement.Notices.DistinctBy(n => n.Rule).ToList();
        return new ReviewedLink
        {
            LinkReviewId = review.Id,
            Number = number,
            Link = link.Link,
            FoundOn = link.FoundOn,
            State = judgement.State,
            MendedUrl = judgement.MendedUrl,
            Rules = [.. notices.Select(n => n.Rule)],
            Says = [.. notices.Select(n => n.Message)],
        };
    }
}
