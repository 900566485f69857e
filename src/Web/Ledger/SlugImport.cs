using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>
/// Takes over slugs and their destinations from a shortener that closes, so that what is printed lives on. A destination
/// stays as it is, tags and all: what was sent out is not rewritten.
/// </summary>
public sealed class SlugImport(
    BeaconDb db,
    LinkInputsReader inputs,
    ConventionReader conventions,
    SlugTable slugs,
    AuditLog auditLog,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    /// <summary>Most slugs taken over at once.</summary>
    public const int Most = 10_000;

    private const int LongestTitle = 300;
    private static readonly string[] SlugWords = ["slug", "short", "code", "key", "alias", "short link"];
    private static readonly string[] PageWords = ["destination", "long", "target", "page", "original", "url", "leads"];
    private static readonly string[] TitleWords = ["title", "name", "label", "description"];

    /// <summary>Reads a sheet: the columns are told by their headings.</summary>
    /// <exception cref="SheetException">It is no sheet, or has no column of slugs or of pages.</exception>
    public async Task<SlugImportAnswer> ReadAsync(byte[] file, string? domain, CancellationToken cancel)
    {
        var table = SheetFile.Read(file, cancel);
        int slug = Find(table, SlugWords, -1);
        int page = Find(table, PageWords, slug);
        if (slug < 0 || page < 0)
        {
            throw new SheetException("Name one column “slug” and one “destination”.");
        }

        if (table.Rows.Count > Most)
        {
            throw new SheetException(
                $"{table.Rows.Count:N0} slugs are more than the {Most:N0} that can be imported at once; split the sheet."
            );
        }

        int title = Find(table, TitleWords, slug, page);
        return await JudgeAsync(
            [
                .. table.Rows.Select(r => new SlugImportRequestRow(
                    Table.Cell(r, slug),
                    Table.Cell(r, page),
                    TypedText.OrNull(Table.Cell(r, title))
                )),
            ],
            domain,
            cancel
        );
    }

    /// <summary>What would come of each line.</summary>
    public async Task<SlugImportAnswer> JudgeAsync(IReadOnlyList<SlugImportRequestRow> rows, string? domain, CancellationToken cancel) =>
        Answer(rows, await WorkAsync(rows, (await ShortDomainChoice.ReadAsync(db, cancel)).Find(domain), cancel));

    /// <summary>Takes over every line nothing is said against, all of them or none.</summary>
    /// <param name="rows">The lines.</param>
    /// <param name="printed">The slugs stand on paper as codes, so their hits are scans.</param>
    /// <param name="onDomain">Id or host of the short domain they stand on; the first where it is left out.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<Outcome<SlugImportAnswer>> ImportAsync(
        IReadOnlyList<SlugImportRequestRow> rows,
        bool printed,
        string? onDomain,
        CancellationToken cancel
    )
    {
        if (rows.Count is 0 or > Most)
        {
            return Refusal.Invalid("slugs-count", $"Send 1 to {Most:N0} slugs at once.");
        }

        if ((await ShortDomainChoice.ReadAsync(db, cancel)).Find(onDomain) is not { } domain)
        {
            return Refusal.Conflict("domain-missing", "No short domain of this name leads here; ask an owner to add and check it.");
        }

        if (domain.Host.Equals(options.Value.PublicHost, StringComparison.OrdinalIgnoreCase))
        {
            return Refusal.Conflict(
                "domain-own-host",
                $"{domain.Host} is where people sign in; add the short domain these links stand on first."
            );
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await SlugLock.TakeAsync(db, cancel);
        var judged = await WorkAsync(rows, domain, cancel);
        var facts = await inputs.FactsAsync(cancel);
        var convention = await conventions.ReadAsync(cancel);
        var links = new List<Link>();
        var used = judged.Select(j => j.Slug).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var (line, row) in judged.Zip(rows).Where(r => r.First.Outcome is SlugImportOutcome.Ready or SlugImportOutcome.Waits))
        {
            links.Add(LinkOf(line, row.Title, convention, facts, domain, printed, used));
        }

        try
        {
            await AskForHostsAsync(links, facts, cancel);
            await LinkCopy.WriteAsync((NpgsqlConnection)db.Database.GetDbConnection(), db.CurrentWorkspaceId!.Value, links, cancel);
        }
        catch (PostgresException clash) when (clash.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return Refusal.Conflict(
                "slug-taken",
                "Somebody else took one of these slugs meanwhile; nothing was imported. Check the list again."
            );
        }

        auditLog.Add("slugs-imported", Guid.CreateVersion7(), null, new { links.Count, printed });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return Answer(rows, judged) with { Imported = links.Count };
    }

    private async Task<IReadOnlyList<SlugImportRow>> WorkAsync(
        IReadOnlyList<SlugImportRequestRow> rows,
        ShortDomain? domain,
        CancellationToken cancel
    )
    {
        var wanted = rows.Select(r => SlugImportCell.Read(r.Slug ?? ""))
            .Where(r => r.Problem is null)
            .Select(r => r.Slug)
            .Distinct()
            .ToList();
        var taken = domain is null
            ? []
            : (
                await db
                    .ShortLinks.Where(s => s.ShortDomainId == domain.Id && wanted.Contains(s.Slug))
                    .Select(s => s.Slug)
                    .ToListAsync(cancel)
            ).ToHashSet();
        return SlugImportCheck.Judge([.. rows.Select(r => (r.Slug ?? "", r.Page ?? ""))], taken, await inputs.FactsAsync(cancel));
    }

    private Link LinkOf(
        SlugImportRow line,
        string? called,
        Convention convention,
        LinkFacts facts,
        ShortDomain domain,
        bool printed,
        HashSet<string> used
    )
    {
        var page = line.Page!;
        var url = TagWriter.Write(page, [], convention.Settings with { Existing = ExistingTags.Keep }).Url;
        var values = TagsIn(page, convention);
        string title = TypedText.OrNull(called) ?? line.Slug;
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
            CreatedBy = auditLog.Who,
            CreatedAt = now,
            IsWaiting = !facts.IsOwnOrApproved(page.HostAndPort),
        };
        string other = SlugMaker.Make(SlugMaker.LengthFor(slugs.CountOn(domain.Host)));
        while (!used.Add(other))
        {
            other = SlugMaker.Make(SlugMaker.LengthFor(slugs.CountOn(domain.Host)));
        }

        var (text, code) = printed ? (other, line.Slug) : (line.Slug, other);
        link.ShortLinks =
        [
            .. new[] { (text, ShortLinkUse.Text), (code, ShortLinkUse.Code) }.Select(s => new ShortLink
            {
                ShortDomainId = domain.Id,
                Slug = s.Item1,
                Use = s.Item2,
                Target = url,
                CreatedAt = now,
            }),
        ];
        return link;
    }

    /// <summary>The convention's values that stand in the address already, so that visits are found by them.</summary>
    private static Dictionary<string, string> TagsIn(Destination page, Convention convention) =>
        (page.Query ?? "")
            .Split('&', StringSplitOptions.RemoveEmptyEntries)
            .Select(p => p.Split('=', 2))
            .Where(p => p.Length == 2 && p[1].Length > 0 && convention.Find(PercentEncoding.Decode(p[0])) is not null)
            .GroupBy(p => convention.Find(PercentEncoding.Decode(p[0]))!.Key)
            .ToDictionary(g => g.Key, g => PercentEncoding.Decode(g.First()[1]));

    private async Task AskForHostsAsync(List<Link> links, LinkFacts facts, CancellationToken cancel)
    {
        var strange = links
            .Select(l => DestinationReader.Read(l.Url).Destination!.HostAndPort)
            .Where(h => !facts.IsOwnOrApproved(h))
            .Distinct()
            .ToList();
        var asked = await db.ApprovedHosts.Where(h => strange.Contains(h.Host)).Select(h => h.Host).ToListAsync(cancel);
        db.ApprovedHosts.AddRange(
            strange
                .Except(asked)
                .Select(h => new ApprovedHost
                {
                    Host = h,
                    AskedBy = auditLog.Who,
                    AskedAt = clock.GetUtcNow(),
                })
        );
        await db.SaveChangesAsync(cancel);
    }

    private static SlugImportAnswer Answer(IReadOnlyList<SlugImportRequestRow> rows, IReadOnlyList<SlugImportRow> judged) =>
        new(
            [.. judged.Zip(rows, (line, row) => new SlugImportRowAnswer(line.Slug, row.Page ?? "", row.Title, line.Outcome, line.Says))],
            judged.Count(l => l.Outcome is SlugImportOutcome.Ready or SlugImportOutcome.Waits),
            0
        );

    private static int Find(Table table, string[] words, params int[] but) =>
        words
            .SelectMany(w =>
                table
                    .Headings.Select((h, i) => (h, i))
                    .Where(h => !but.Contains(h.i) && h.h.Contains(w, StringComparison.OrdinalIgnoreCase))
                    .Select(h => h.i)
            )
            .Append(-1)
            .First();
}
