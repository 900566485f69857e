using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Data;
using PreciseBeacon.Web.Outbox;

namespace PreciseBeacon.Web.Accounts;

/// <inheritdoc />
public sealed class ForgottenPasswords(BeaconDb db, InvitationBook invitations) : IForgottenPasswords
{
    /// <summary>Somebody who asks again gets no second mail for so long (ours).</summary>
    private static readonly TimeSpan Again = TimeSpan.FromMinutes(5);

    /// <inheritdoc />
    public async Task<OutgoingMail?> WriteAsync(string recipient, DateTimeOffset askedAt, CancellationToken cancel)
    {
        if (await invitations.SpeakForAsync(recipient, cancel) is not { } member)
        {
            return null;
        }

        // A link made since it was asked for is one of an earlier try, whose mail did not go out.
        var since = askedAt - Again;
        if (
            await db.Invitations.AnyAsync(
                i => i.UserId == member.UserId && i.MadeAt > since && i.MadeAt < askedAt && i.UsedAt == null,
                cancel
            )
        )
        {
            return null;
        }

        string workspace = await db.Workspaces.Where(w => w.Id == member.WorkspaceId).Select(w => w.Name).SingleAsync(cancel);
        var made = await invitations.MakeAsync(member.User!.Email!, member.Role, member.UserId, cancel);
        return made.Value is { } link ? AccountMails.Forgotten(workspace, link.Address, link.ExpiresAt) : null;
    }
}
