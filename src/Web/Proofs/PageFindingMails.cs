using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outbox;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Mails to those who want to know what a check of pages found anew.</summary>
public sealed class PageFindingMails(
    PageCheckBook book,
    MailChoices choices,
    MailStop stops,
    OutboxSignal signal,
    IOptions<BeaconOptions> options
)
{
    /// <summary>Writes them; none where nothing is new, nobody wants to know, or no mails are sent.</summary>
    public async Task<IReadOnlyList<WantedMail>> WriteAsync(PageCheckRun run, CancellationToken cancel)
    {
        if (
            OutboxSettings.FromOf(options.Value) is null
            || await choices.WhoWantAsync(run.WorkspaceId, MailKinds.PageFindings, cancel) is not { Count: > 0 } readers
            || await book.NewAsync(run, ProofMails.MostNamed, cancel) is not ({ Count: > 0 } findings, var count)
        )
        {
            return [];
        }

        string address = $"{options.Value.PublicUrl.TrimEnd('/')}/proof?part=pages";
        return
        [
            .. readers.Select(r => new WantedMail(
                r.Mail,
                ProofMails.PageFindings(
                    r.Workspace,
                    findings,
                    count,
                    address,
                    stops.AddressOf(run.WorkspaceId, r.User, MailKinds.PageFindings)
                )
            )),
        ];
    }

    /// <summary>Has them sent now.</summary>
    public void Wake() => signal.Wake();
}
