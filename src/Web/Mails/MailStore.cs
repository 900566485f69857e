using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Mails;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Mails;

/// <summary>Keeps HTML mails, decides what to do with each of their links, and makes the links.</summary>
public sealed class MailStore(
    BeaconDb db,
    LinkComposition composition,
    LinkInputsReader inputs,
    ConventionReader conventions,
    LinkWriter writer,
    Inbox inbox,
    AuditLog auditLog,
    TimeProvider clock
)
{
    public const int MostMegabytes = 10;
    private const int MostLinks = LinkComposition.MostAtOnce;
    private const int LongestContent = 500;
    private const int LongestName = 200;

    private sealed record WorkedMailLink(MailLink Link, MailLinkFate Fate, bool Skipped, string Content, bool Typed, PreparedLink? Worked);

    /// <summary>Takes a mail in.</summary>
    /// <exception cref="FormatException">There is no HTML in it, or too many links; the message is one sentence.</exception>
    public async Task<Mail> TakeInAsync(string name, byte[] file, CancellationToken cancel)
    {
        var read = MailFile.Read(file);
        if (read.Links.Count > MostLinks)
        {
            throw new FormatException($"A mail has at most {MostLinks:N0} links; this one has {read.Links.Count:N0}.");
        }

        var mail = new Mail
        {
            Name = name.Length is 0 or > LongestName ? "Mail" : name,
            File = file,
            Subject = TypedText.OrNull(read.Subject?.Replace("\0", "", StringComparison.Ordinal)),
            CreatedBy = auditLog.Who,
            CreatedAt = clock.GetUtcNow(),
            Revision = 1,
        };
        db.Mails.Add(mail);
        await db.SaveChangesAsync(cancel);
        return mail;
    }

    /// <summary>Every mail, newest first.</summary>
    public async Task<List<MailSummary>> ListAsync(CancellationToken cancel)
    {
        var mails = await db
            .Mails.AsNoTracking()
            .OrderByDescending(m => m.CreatedAt)
            .Take(500)
            .Select(m => new
            {
                m.Id,
                m.Name,
                m.Subject,
                m.Written,
                m.CreatedBy,
                m.CreatedAt,
                m.MadeAt,
            })
            .ToListAsync(cancel);
        return [.. mails.Select(m => new MailSummary(m.Id, m.Name, m.Subject, m.Written.Count, m.CreatedBy, m.CreatedAt, m.MadeAt))];
    }

    public async Task<Mail?> FindAsync(Guid id, CancellationToken cancel) => await db.Mails.SingleOrDefaultAsync(m => m.Id == id, cancel);

    /// <summary>A mail with its links and how each is tagged.</summary>
    public async Task<MailAnswer> AnswerAsync(Mail mail, CancellationToken cancel)
    {
        var file = MailFile.Read(mail.File);
        var links = await WorkAsync(mail, file, cancel);
        return new MailAnswer(
            mail.Id,
            mail.Name,
            mail.Subject,
            file.IsMessage,
            mail.Placement,
            mail.Campaign,
            mail.ContentBy,
            mail.Shorten,
            mail.Revision,
            links.Count(l => l.Worked is { Composed.Ready: true }),
            [
                .. links.Select(l => new MailLinkAnswer(
                    l.Link.Number,
                    l.Link.Href,
                    l.Link.Text,
                    l.Link.Place,
                    l.Link.Shape,
                    l.Fate.Fate,
                    l.Fate.Why,
                    l.Skipped,
                    l.Content,
                    l.Typed,
                    l.Worked?.Composed.Tagged?.Url,
                    l.Worked?.Composed.Tagged?.Strip ?? [],
                    NoticesOf(l),
                    l.Worked?.Composed.Ready ?? false,
                    mail.Written.GetValueOrDefault(Key(l.Link.Number))
                )),
            ],
            mail.MadeBy,
            mail.MadeAt,
            inbox.Address
        );
    }

    /// <summary>Keeps what was chosen; links made before stay in the mail until they are made anew.</summary>
    public async Task<Refusal?> ChooseAsync(Mail mail, MailChoices choices, CancellationToken cancel)
    {
        if (choices.Revision != mail.Revision)
        {
            return Refusal.Conflict(
                "changed-meanwhile",
                "Somebody else changed this mail meanwhile. Review their version, then make your change again."
            );
        }

        if (
            choices.Typed?.Values.Any(v => v is null || v.Length > LongestContent) == true
            || choices.Typed?.Count > MostLinks
            || choices.Skipped?.Count > MostLinks
        )
        {
            return Refusal.Invalid("choices-refused", $"Content has at most {LongestContent} characters.");
        }

        (mail.Placement, mail.Campaign) = (TypedText.OrNull(choices.Placement), TypedText.OrNull(choices.Campaign));
        (mail.ContentBy, mail.Shorten) = (choices.ContentBy, choices.Shorten);
        mail.Typed = choices.Typed?.ToDictionary(t => t.Key, t => t.Value.Replace("\0", "", StringComparison.Ordinal)) ?? [];
        mail.Skipped = [.. choices.Skipped ?? []];
        mail.Revision++;
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>Makes the links and writes them into the mail; one that exists already is taken, not made twice.</summary>
    public async Task<Refusal?> MakeAsync(Mail mail, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Two people who write the same mail at one moment wait for each other; the second finds the first one's links.
        await RowLock.MailAsync(db, mail.Id, cancel);
        var links = await WorkAsync(mail, MailFile.Read(mail.File), cancel);
        var ready = links.Where(l => l.Worked is { Composed.Ready: true }).ToList();
        if (ready.Count == 0)
        {
            return Refusal.Unacceptable(
                "nothing-ready",
                "No link of this mail is ready; check the notices of its links, or choose placement and campaign."
            );
        }

        var known = ready
            .Where(l => IsThere(l.Worked!))
            .DistinctBy(UrlOf)
            .ToDictionary(UrlOf, l => mail.Shorten ? CopyUrlOf(l.Worked!) : UrlOf(l));
        var toMake = ready.Where(l => !known.ContainsKey(UrlOf(l))).DistinctBy(UrlOf).ToList();
        var stored = await writer.SaveAsync([.. toMake.Select(l => l.Worked!)], auditLog.Who, cancel);
        if (stored.IsRefused)
        {
            return stored.Refusal;
        }

        foreach (var (place, link) in stored.Value)
        {
            string url = UrlOf(toMake[place]);
            var saved = SavedLink.Of(link);
            known[url] = mail.Shorten && saved.ShortUrl is not null ? saved.CopyUrl : url;
        }

        db.ChangeTracker.Clear(); // the mail is read again as it is behind the lock
        var kept = await db.Mails.SingleAsync(m => m.Id == mail.Id, cancel);
        kept.Written = ready.ToDictionary(l => Key(l.Link.Number), l => known[UrlOf(l)]);
        (kept.MadeBy, kept.MadeAt) = (auditLog.Who, clock.GetUtcNow());
        kept.Revision++;
        auditLog.Add(
            "mail",
            kept.Id,
            null,
            new
            {
                kept.Name,
                kept.Placement,
                kept.Campaign,
                Made = toMake.Count,
                Written = kept.Written.Count,
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;

        bool IsThere(PreparedLink worked) => worked.Existing?.CanStandIn(mail.Shorten) == true;
        static string CopyUrlOf(PreparedLink worked) =>
            PlaceholdersBehind.UrlToCopy(
                worked.Composed.Tagged!.Url,
                worked.Existing!.ShortUrl,
                CarriedParameters.Nothing,
                worked.Convention.Settings.Live
            );
        static string UrlOf(WorkedMailLink link) => link.Worked!.Composed.Tagged!.Url;
    }

    /// <summary>Addresses to be written into the mail: those that were made, or those that would be.</summary>
    public async Task<IReadOnlyDictionary<int, string>> AddressesAsync(Mail mail, CancellationToken cancel) =>
        mail.Written.Count > 0
            ? Written(mail)
            : (await WorkAsync(mail, MailFile.Read(mail.File), cancel))
                .Where(l => l.Worked is { Composed.Ready: true })
                .ToDictionary(l => l.Link.Number, l => l.Worked!.Composed.Tagged!.Url);

    /// <summary>Addresses that were written, by number.</summary>
    public static IReadOnlyDictionary<int, string> Written(Mail mail) =>
        mail.Written.ToDictionary(w => int.Parse(w.Key, CultureInfo.InvariantCulture), w => w.Value);

    private async Task<List<WorkedMailLink>> WorkAsync(Mail mail, MailFile file, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel, PlaceholderShapes.MergeTags);
        var facts = await inputs.FactsAsync(cancel);
        var names = MailContent.Of(file.Links, mail.ContentBy);
        var links = file
            .Links.Select(l =>
            {
                string key = Key(l.Number);
                bool typed = mail.Typed.TryGetValue(key, out string? content);
                return new WorkedMailLink(
                    l,
                    MailLinkFate.Of(l, convention, facts),
                    mail.Skipped.Contains(l.Number),
                    typed ? content! : names.GetValueOrDefault(l.Number, ""),
                    typed,
                    null
                );
            })
            .ToList();
        var replaced = await ReplacedAsync(mail, links, convention, cancel);
        var asked = links
            .Where(l =>
                l is { Skipped: false, Fate.Fate: MailFate.Tag or MailFate.Mend }
                || (replaced.Count > 0 && l is { Skipped: false, Fate.Fate: MailFate.Right })
            )
            .ToList();
        if (asked.Count == 0)
        {
            return links;
        }

        var worked = (
            await composition.ComposeAsync(
                [.. asked.Select(l => RequestOf(l, mail, convention, facts, replaced))],
                cancel,
                PlaceholderShapes.MergeTags
            )
        )
            .Select((w, i) => Changed(asked[i], w))
            .ToDictionary(l => l.Link.Number);
        return [.. links.Select(l => worked.GetValueOrDefault(l.Link.Number, l))];
    }

    /// <summary>
    /// The fields that the mail's placement and campaign give. Tags a link has for them are replaced (rule 1.7), for a mail made
    /// from last month's carries last month's; a link that is to keep them is excluded by its tick. Its content tells it apart in the mail, and stays.
    /// </summary>
    private async Task<IReadOnlySet<string>> ReplacedAsync(
        Mail mail,
        IReadOnlyList<WorkedMailLink> links,
        Convention convention,
        CancellationToken cancel
    )
    {
        if (
            (mail.Campaign ?? mail.Placement) is null
            || links.FirstOrDefault(l => l is { Skipped: false, Fate.Fate: MailFate.Mend or MailFate.Right }) is not { } tagged
        )
        {
            return new HashSet<string>();
        }

        var alone = await composition.ComposeAsync(
            [new ComposeRequest(tagged.Link.Href, mail.Campaign, mail.Placement, Existing: ExistingTags.Replace)],
            cancel,
            PlaceholderShapes.MergeTags
        );
        return alone[0]
            .Composed.Fields.Where(f =>
                f is { Value.Length: > 0, From: ValueOrigin.Placement or ValueOrigin.Campaign or ValueOrigin.Composed or ValueOrigin.Fixed }
            )
            .Select(f => f.Key)
            .Where(k => k != convention.KeyOf(FieldMeaning.Content))
            .ToHashSet();
    }

    /// <summary>A correct link whose tags are another campaign's or placement's is one that changes, and says so.</summary>
    private static WorkedMailLink Changed(WorkedMailLink link, PreparedLink worked) =>
        link.Fate.Fate != MailFate.Right ? link with { Worked = worked }
        : worked.Composed.Tagged?.Url == link.Link.Href.Trim() ? link
        : link with
        {
            Worked = worked,
            Fate = new MailLinkFate(MailFate.Mend, "has another campaign’s or placement’s tags, which are replaced"),
        };

    /// <summary>
    /// A link without tags gets them from placement, campaign and its place; one that has some keeps them, mended, but for those
    /// the mail's own placement and campaign give.
    /// </summary>
    private static ComposeRequest RequestOf(
        WorkedMailLink link,
        Mail mail,
        Convention convention,
        LinkFacts facts,
        IReadOnlySet<string> replaced
    )
    {
        var fields = new Dictionary<string, string>();
        if (link.Fate.Fate is MailFate.Mend or MailFate.Right)
        {
            foreach (
                var field in LinkInspector
                    .Inspect(convention, link.Link.Href, facts)
                    .Mended?.Fields.Where(f => f.Value.Length > 0 && !replaced.Contains(f.Key))
                    ?? []
            )
            {
                fields[field.Key] = field.Value;
            }
        }

        string? key = convention.KeyOf(FieldMeaning.Content);
        if (key is not null && link.Content.Length > 0 && (link.Typed || !fields.ContainsKey(key)))
        {
            fields[key] = link.Content;
        }

        string title = link.Link.Text.Length == 0 ? mail.Subject ?? mail.Name : $"{mail.Subject ?? mail.Name} · {link.Link.Text}";
        return new ComposeRequest(
            link.Link.Href,
            mail.Campaign,
            mail.Placement,
            fields,
            Existing: ExistingTags.Replace,
            Title: title.Length > LongestName ? title[..LongestName] : title,
            Shorten: mail.Shorten
        );
    }

    /// <summary>That the link exists is what somebody wants who makes the mail's links anew.</summary>
    private static List<Core.Notices.Notice> NoticesOf(WorkedMailLink link) =>
        [
            .. (link.Worked?.Composed.Notices ?? []).Where(n =>
                n.Rule != Core.Notices.NoticeRules.SameAsExisting.Name && n.Rule != Core.Notices.NoticeRules.TagsReplaced.Name
            ),
        ];

    private static string Key(int number) => number.ToString(CultureInfo.InvariantCulture);
}
