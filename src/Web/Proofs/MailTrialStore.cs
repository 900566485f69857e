using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Mails;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Mails;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Sends a mail with a trial's address for each of its links, and tells which were tried.</summary>
public sealed class MailTrialStore(
    BeaconDb db,
    TrialBook book,
    TrialStarter starter,
    TrialStore trials,
    NamedTargetReader names,
    FindingBook findings,
    Inbox inbox,
    TimeProvider clock
)
{
    /// <summary>Links of a mail that are tried at once (ours); each of their pages is fetched twice before the mail is sent.</summary>
    public const int MostLinks = 100;

    /// <summary>Pages that are fetched at one time (ours): a newsletter's links mostly lead to one site, which is not to be pressed.</summary>
    private const int AtOnce = 4;

    /// <summary>Sends the mail to the inbox, with a trial's address in place of each link that was made for it.</summary>
    public async Task<Outcome<MailTrialAnswer>> SendAsync(Mail mail, CancellationToken cancel)
    {
        if (inbox.Address is null)
        {
            return Refusal.Conflict(
                "no-inbox",
                "This installation has no test inbox. Try the links one by one from the Ledger, or set an inbox in the settings."
            );
        }

        if (mail.Written.Count == 0)
        {
            return Refusal.Conflict("links-not-made", "The mail’s links are not created yet; create them first, then try them.");
        }

        var file = MailFile.Read(mail.File);
        var written = MailStore.Written(mail);
        var links = await LinksAsync(mail.WorkspaceId, written, cancel);
        if (links.Count == 0)
        {
            return Refusal.Unacceptable(
                "links-gone",
                "None of the links in the mail can be tried: they are deleted, or wait for their host to be approved. Write the links again."
            );
        }

        if (links.Values.DistinctBy(l => l.Id).Count() > MostLinks)
        {
            return Refusal.Unacceptable(
                "links-many",
                $"A mail’s trial has at most {MostLinks} links. Check the pages of all links under Proof, Page checks instead."
            );
        }

        var traces = await TracesAsync(mail.WorkspaceId, [.. links.Values.DistinctBy(l => l.Id)], cancel);
        var run = Guid.CreateVersion7(clock.GetUtcNow());
        var begun = links.ToDictionary(l => l.Key, l => starter.Begin(l.Value, traces[l.Value.Id], new TrialInMail(mail.Id, l.Key, run)));
        await book.AddAsync(begun.Values, cancel);
        var addresses = written.ToDictionary(w => w.Key, w => begun.TryGetValue(w.Key, out var trial) ? trial.Address : w.Value);
        if (await inbox.SendAsync(file.With(addresses), file.IsMessage, $"Trial: {mail.Subject ?? mail.Name}", cancel) is not { } where)
        {
            await book.ForgetRunAsync(run, CancellationToken.None);
            return Refusal.OutsideFailed("inbox-away", "The inbox does not answer; nothing was sent. Try again in a moment.");
        }

        await findings.MarkDueAsync(mail.WorkspaceId, cancel);
        return await AnswerAsync(mail, where, cancel);
    }

    /// <summary>The mail's latest trial, with the links that were tried; one without links where it was never sent.</summary>
    /// <param name="mail">The mail.</param>
    /// <param name="where">Where it can be looked at; null where that is not known any more.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<MailTrialAnswer> AnswerAsync(Mail mail, string? where, CancellationToken cancel)
    {
        var run = await book.OfMailAsync(mail.WorkspaceId, mail.Id, cancel);
        var answers = (await trials.AnswersAsync(run, cancel)).ToDictionary(t => t.Id);
        var texts = MailFile.Read(mail.File).Links.ToDictionary(l => l.Number, l => l.Text);
        List<MailTrialLink> links =
        [
            .. run.Where(t => answers.ContainsKey(t.Id))
                .Select(t => new MailTrialLink(t.Mail!.Number, texts.GetValueOrDefault(t.Mail.Number, ""), answers[t.Id])),
        ];
        return new MailTrialAnswer(
            where ?? inbox.Address,
            run.Count == 0 ? null : run[0].StartedAt,
            run.Count == 0 ? null : run[0].StartedBy,
            run.Count == 0 ? null : run[0].EndsAt,
            links.Count(l => l.Trial.Verdict is not (TrialVerdict.Waiting or TrialVerdict.NotTried)),
            links.Count(l => l.Trial.Verdict is TrialVerdict.Fails),
            mail.Written.Count - links.Count,
            links
        );
    }

    /// <summary>The link behind each address that was written into a mail; those that are gone or may not be opened yet are left out.</summary>
    private async Task<Dictionary<int, Link>> LinksAsync(
        Guid workspaceId,
        IReadOnlyDictionary<int, string> written,
        CancellationToken cancel
    )
    {
        // A mail tool's placeholders stand behind a short link's own address.
        var meant = (await names.ReadAsync(workspaceId, written.Values.SelectMany(u => new[] { u, Bare(u) }), cancel)).Links;
        var ids = written
            .Select(w =>
                (w.Key, Id: (meant.GetValueOrDefault(w.Value) ?? meant.GetValueOrDefault(Bare(w.Value)))?.Cast<Guid?>().FirstOrDefault())
            )
            .Where(w => w.Id is not null)
            .ToDictionary(w => w.Key, w => w.Id!.Value);
        var links = await db
            .Links.AsNoTracking()
            .Include(l => l.ShortLinks)
                .ThenInclude(s => s.ShortDomain)
            .Where(l => ids.Values.Contains(l.Id) && !l.IsWaiting)
            .ToDictionaryAsync(l => l.Id, cancel);
        return ids.Where(i => links.ContainsKey(i.Value)).ToDictionary(i => i.Key, i => links[i.Value]);
    }

    private async Task<Dictionary<Guid, TrialTrace>> TracesAsync(Guid workspaceId, List<Link> links, CancellationToken cancel)
    {
        var facts = await starter.FactsAsync(workspaceId, cancel);
        var traces = new TrialTrace[links.Count];
        await Parallel.ForAsync(
            0,
            links.Count,
            new ParallelOptions { MaxDegreeOfParallelism = AtOnce, CancellationToken = cancel },
            async (i, stop) => traces[i] = await starter.TraceAsync(links[i], facts, stop)
        );
        return links.Select((l, i) => (l.Id, Trace: traces[i])).ToDictionary(t => t.Id, t => t.Trace);
    }

    private static string Bare(string url) => url.Split('?', '#')[0];
}
