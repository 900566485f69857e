using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Ledger;

/// <summary>
/// Takes over slugs and their destinations from a shortener that closes, so that what is printed lives on. A destination
/// stays as it is, tags and all: what was sent out is not rewritten.
/// </summary>
public sealed class SlugImport(BeaconDb db, LinkWorkshop workshop, ConventionReader conventions, SlugTable slugs, History history, TimeProvider clock)
{
    /// <summary>Most slugs taken over at once.</summary>
    public const int Most = 10_000;

    private const int LongestTitle = 300;
    private static readonly string[] SlugWords = ["slug", "short", "code", "key", "alias", "short link"];
    private static readonly string[] PageWords = ["destination", "long", "target", "page", "original", "url", "leads"];
    private static readonly string[] TitleWords = ["title", "name", "label", "description"];

    /// <summary>Reads a sheet: the columns are told by their headings.</summary>
    /// <exception cref="ConventionException">It is no sheet, or has no column of slugs or of pages.</exception>
    public async Task<SlugImportAnswer> ReadAsync(byte[] file, CancellationToken cancel)
    {
        var table = SheetFile.Read(file, new SheetReading()).Table;
        int slug = Find(table, SlugWords, -1);
        int page = Find(table, PageWords, slug);
        if (slug < 0 || page < 0)
        {
            throw new ConventionException("Call one column “slug” and one “destination”, so that it is clear which is which.");
        }

        if (table.Rows.Count > Most)
        {
            throw new ConventionException($"{table.Rows.Count:N0} slugs are more than the {Most:N0} that are taken over at once; cut the sheet into parts.");
        }

        int title = Find(table, TitleWords, slug, page);
        return await JudgeAsync([.. table.Rows.Select(r => new SlugRow(Table.Cell(r, slug), Table.Cell(r, page), TypedText.OrNull(Table.Cell(r, title))))], cancel);
    }

    /// <summary>What would come of each line.</summary>
    public async Task<SlugImportAnswer> JudgeAsync(IReadOnlyList<SlugRow> rows, CancellationToken cancel)
    {
        var (judged, _) = await WorkAsync(rows, cancel);
        return Answer(judged);
    }

    /// <summary>Takes over every line nothing is said against, all of them or none.</summary>
    /// <param name="rows">The lines.</param>
    /// <param name="printed">The slugs stand on paper as codes, so their hits are scans.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<(SlugImportAnswer? Answer, ProblemHttpResult? Refusal)> BringAsync(IReadOnlyList<SlugRow> rows, bool printed, CancellationToken cancel)
    {
        if (rows.Count is 0 or > Most)
        {
            return (null, Refusal.Of(StatusCodes.Status400BadRequest, "slugs-count", $"Bring 1 to {Most:N0} slugs at once."));
        }

        if (await DomainAsync(cancel) is not { } domain)
        {
            return (null, Refusal.Of(StatusCodes.Status409Conflict, "domain-missing", "This workspace has no short domain yet; ask its owner."));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (judged, pages) = await WorkAsync(rows, cancel);
        var facts = await workshop.FactsAsync(cancel);
        var convention = await conventions.ReadAsync(cancel);
        var links = new List<Link>();
        var used = judged.Select(j => j.Slug).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var (row, i) in judged.Select((r, i) => (r, i)).Where(r => r.r.Outcome is SlugRowAnswer.Ready or SlugRowAnswer.Waits))
        {
            links.Add(LinkOf(row, pages[i]!, convention, facts, domain, printed, used));
        }

        try
        {
            await AskForHostsAsync(links, facts, cancel);
            await LinkCopy.WriteAsync((NpgsqlConnection)db.Database.GetDbConnection(), db.CurrentWorkspaceId!.Value, links, cancel);
        }
        catch (PostgresException clash) when (clash.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return (null, Refusal.Of(StatusCodes.Status409Conflict, "slug-taken", "Somebody took one of these slugs in the meantime; look at the list again, nothing was brought in."));
        }

        history.Add("slugs-brought", Guid.CreateVersion7(), null, new { links.Count, printed });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return (Answer(judged) with { Brought = links.Count }, null);
    }

    private Task<ShortDomain?> DomainAsync(CancellationToken cancel) => db.ShortDomains.AsNoTracking().OrderBy(d => d.Id).FirstOrDefaultAsync(cancel);

    private async Task<(List<SlugRowAnswer> Rows, List<Destination?> Pages)> WorkAsync(IReadOnlyList<SlugRow> rows, CancellationToken cancel)
    {
        var read = rows.Select(r => BroughtSlug.Read(r.Slug ?? "")).ToList();
        var wanted = read.Where(r => r.Problem is null).Select(r => r.Slug).Distinct().ToList();
        var domain = await DomainAsync(cancel);
        var taken = domain is null ? [] : (await db.ShortLinks.Where(s => s.ShortDomainId == domain.Id && wanted.Contains(s.Slug)).Select(s => s.Slug).ToListAsync(cancel)).ToHashSet();
        var facts = await workshop.FactsAsync(cancel);
        var seen = new Dictionary<string, int>();
        var looks = new Dictionary<string, string>();
        var answers = new List<SlugRowAnswer>(rows.Count);
        var pages = new List<Destination?>(rows.Count);
        for (int i = 0; i < rows.Count; i++)
        {
            var (slug, problem) = read[i];
            var page = DestinationReader.Read(rows[i].Page ?? "");
            bool twice = problem is null && !seen.TryAdd(slug, i + 1);
            string look = BroughtSlug.LooksOf(slug);
            string? alike = problem is null && !twice && !looks.TryAdd(look, slug) && looks[look] != slug ? looks[look] : null;
            var (outcome, says) =
                problem is not null ? (SlugRowAnswer.Refused, problem)
                : page.Destination is null ? (SlugRowAnswer.Refused, page.Notices is [var first, ..] ? first.Message : $"“{rows[i].Page}” is no web address.")
                : twice ? (SlugRowAnswer.Clash, $"Line {seen[slug]} has the same slug; ours ignore capitals.")
                : taken.Contains(slug) ? (SlugRowAnswer.Clash, $"“{slug}” leads somewhere already on this short domain.")
                : !facts.IsOwnOrApproved(page.Destination.HostAndPort) ? (SlugRowAnswer.Waits, $"{page.Destination.HostAndPort} is neither one of your sites nor approved; an owner will be asked, and until then it answers “no such link”.")
                : (SlugRowAnswer.Ready, alike is null ? null : $"It looks like “{alike}”, which leads elsewhere; people may confuse them on paper.");
            answers.Add(new SlugRowAnswer(slug.Length == 0 ? rows[i].Slug ?? "" : slug, rows[i].Page ?? "", rows[i].Title, outcome, says));
            pages.Add(page.Destination);
        }

        return (answers, pages);
    }

    private Link LinkOf(SlugRowAnswer row, Destination page, Convention convention, LinkFacts facts, ShortDomain domain, bool printed, HashSet<string> used)
    {
        var url = LinkComposer.Compose(page, [], convention.Settings with { Existing = ExistingTags.Keep }).Url;
        var values = TagsIn(page, convention);
        string title = row.Title ?? row.Slug;
        var now = clock.GetUtcNow();
        var link = new Link
        {
            Title = title.Length > LongestTitle ? title[..LongestTitle] : title,
            Destination = page.Shown,
            Url = url,
            Values = values,
            Page = page.Page,
            TagsKey = LinkKey.Of(values, convention.Settings.Live),
            ConventionVersion = convention.Version,
            CreatedBy = history.Who,
            CreatedAt = now,
        };
        var state = facts.IsOwnOrApproved(page.HostAndPort) ? ShortLinkState.Live : ShortLinkState.Waiting;
        string other = SlugMaker.Make(SlugMaker.LengthFor(slugs.CountOn(domain.Host)));
        while (!used.Add(other))
        {
            other = SlugMaker.Make(SlugMaker.LengthFor(slugs.CountOn(domain.Host)));
        }

        var (text, code) = printed ? (other, row.Slug) : (row.Slug, other);
        link.ShortLinks = [.. new[] { (text, ShortLinkUse.Text), (code, ShortLinkUse.Code) }.Select(s => new ShortLink { ShortDomainId = domain.Id, Slug = s.Item1, Use = s.Item2, State = state, Target = url, CreatedAt = now })];
        return link;
    }

    /// <summary>The convention's values that stand in the address already, so that visits are found by them.</summary>
    private static Dictionary<string, string> TagsIn(Destination page, Convention convention) => (page.Query ?? "").Split('&', StringSplitOptions.RemoveEmptyEntries)
        .Select(p => p.Split('=', 2)).Where(p => p.Length == 2 && p[1].Length > 0 && convention.Find(PercentEncoding.Decode(p[0])) is not null)
        .GroupBy(p => convention.Find(PercentEncoding.Decode(p[0]))!.Key).ToDictionary(g => g.Key, g => PercentEncoding.Decode(g.First()[1]));

    private async Task AskForHostsAsync(List<Link> links, LinkFacts facts, CancellationToken cancel)
    {
        var strange = links.Select(l => DestinationReader.Read(l.Url).Destination!.HostAndPort).Where(h => !facts.IsOwnOrApproved(h)).Distinct().ToList();
        var asked = await db.ApprovedHosts.Where(h => strange.Contains(h.Host)).Select(h => h.Host).ToListAsync(cancel);
        db.ApprovedHosts.AddRange(strange.Except(asked).Select(h => new ApprovedHost { Host = h, AskedBy = history.Who, AskedAt = clock.GetUtcNow() }));
        await db.SaveChangesAsync(cancel);
    }

    private static SlugImportAnswer Answer(List<SlugRowAnswer> rows) => new(rows, rows.Count(r => r.Outcome is SlugRowAnswer.Ready or SlugRowAnswer.Waits), 0);

    private static int Find(Table table, string[] words, params int[] but) => words
        .SelectMany(w => table.Headings.Select((h, i) => (h, i)).Where(h => !but.Contains(h.i) && h.h.Contains(w, StringComparison.OrdinalIgnoreCase)).Select(h => h.i)).Append(-1).First();
}
