using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Accounts;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outbox;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// Links that are handed over: by one somebody joins, by another a member chooses a new password. Each works once and ends by itself; the
/// secret in it is shown once and stored only as a hash (OWASP ASVS 4.0.3, 2.3.1 and 2.5.6).
/// </summary>
public sealed class InvitationBook(
    BeaconDb db,
    CurrentWorkspace current,
    UserManager<AppUser> users,
    PasswordCheck passwords,
    SessionKeeper sessions,
    KnownDevice devices,
    AuditLog auditLog,
    OutboxWriter outbox,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    /// <summary>How long somebody has to join (ours).</summary>
    public static readonly TimeSpan InvitationHolds = TimeSpan.FromDays(7);

    /// <summary>How long a new password may be chosen (ours).</summary>
    public static readonly TimeSpan ResetHolds = TimeSpan.FromHours(24);

    private const string What = "invitation";
    private const int SecretOctets = 32;
    private const int MostOpen = 500;

    /// <summary>Invitations that can still be used, the newest first.</summary>
    public async Task<IReadOnlyList<InvitationAnswer>> OpenAsync(CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        return await db
            .Invitations.AsNoTracking()
            .Where(i => i.UsedAt == null && i.RevokedAt == null && i.ExpiresAt > now)
            .OrderByDescending(i => i.MadeAt)
            .Select(i => new InvitationAnswer(i.Id, i.Mail, i.Role, i.UserId != null, i.MadeBy, i.MadeAt, i.ExpiresAt))
            .ToListAsync(cancel);
    }

    /// <summary>Makes the link by which somebody joins.</summary>
    public async Task<Outcome<InvitationMade>> InviteAsync(string? mail, Role role, CancellationToken cancel)
    {
        if (MailAddresses.Read(mail) is not { } address)
        {
            return MailAddresses.Refused();
        }

        if (role is Role.Shortener or Role.Measuring)
        {
            return Refusal.Invalid("role-refused", "People are owners, editors or viewers; only keys can be made for shortening alone.");
        }

        string normal = users.NormalizeEmail(address)!;
        if (await db.Members.AnyAsync(m => m.User!.NormalizedEmail == normal, cancel))
        {
            return Refusal.Conflict("member-exists", $"{address} is a member already.");
        }

        return await MakeAsync(address, role, userId: null, cancel, mailed: true);
    }

    /// <summary>Makes a link. An earlier one for the same end is over with it.</summary>
    /// <param name="mailed">The person gets it by mail too, where mails are sent.</param>
    public async Task<Outcome<InvitationMade>> MakeAsync(
        string mail,
        Role role,
        Guid? userId,
        CancellationToken cancel,
        bool mailed = false
    )
    {
        if ((await OpenAsync(cancel)).Count >= MostOpen)
        {
            return Refusal.Unacceptable("invitations-many", $"There are {MostOpen} open invitations; revoke some first.");
        }

        var now = clock.GetUtcNow();
        string secret = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(SecretOctets));
        var invitation = new Invitation
        {
            Hash = HashOf(secret),
            Mail = mail,
            Role = role,
            UserId = userId,
            MadeBy = auditLog.Who,
            MadeAt = now,
            ExpiresAt = now + (userId is null ? InvitationHolds : ResetHolds),
        };
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db
            .Invitations.Where(i => i.Mail == mail && i.UserId == userId && i.UsedAt == null && i.RevokedAt == null)
            .ExecuteUpdateAsync(i => i.SetProperty(x => x.RevokedAt, now), cancel);
        db.Invitations.Add(invitation);
        auditLog.Add(
            What,
            invitation.Id,
            null,
            new
            {
                invitation.Mail,
                invitation.Role,
                Reset = userId is not null,
            }
        );
        await db.SaveChangesAsync(cancel);

        // Behind the #, so that no server, log or referrer ever has it.
        string link = $"{options.Value.PublicUrl.TrimEnd('/')}/join#{secret}";
        mailed = mailed && outbox.IsOn;
        if (mailed)
        {
            string workspace = await db.Workspaces.Where(w => w.Id == current.Id).Select(w => w.Name).SingleAsync(cancel);
            await outbox.AddAsync(
                mail,
                userId is null
                    ? AccountMails.Invitation(invitation.MadeBy, workspace, NameOf(role), link, invitation.ExpiresAt)
                    : AccountMails.Reset(invitation.MadeBy, workspace, link, invitation.ExpiresAt),
                cancel
            );
        }

        await transaction.CommitAsync(cancel);
        if (mailed)
        {
            outbox.Wake();
        }

        return new InvitationMade(invitation.Id, link, invitation.ExpiresAt, mailed);
    }

    /// <summary>The member with a mail address, of the workspace they joined first, which is spoken for from now on.</summary>
    /// <returns>Null when nobody has it.</returns>
    public async Task<Member?> SpeakForAsync(string mail, CancellationToken cancel)
    {
        string normal = mail.ToUpperInvariant();
        var member = await db
            .Members.IgnoreQueryFilters()
            .AsNoTracking()
            .Include(m => m.User)
            .Where(m => m.User!.NormalizedEmail == normal)
            .OrderBy(m => m.Id)
            .FirstOrDefaultAsync(cancel);
        current.Id = member?.WorkspaceId ?? current.Id;
        return member;
    }

    /// <summary>Ends a link before it was used.</summary>
    public async Task<Refusal?> RevokeAsync(Guid id, CancellationToken cancel)
    {
        if (await db.Invitations.SingleOrDefaultAsync(i => i.Id == id && i.UsedAt == null && i.RevokedAt == null, cancel) is not { } found)
        {
            return Refusal.NotFound("invitation");
        }

        found.RevokedAt = clock.GetUtcNow();
        auditLog.Add(What, id, new { found.Mail, found.Role }, null);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>What a link is for, to whoever has it.</summary>
    public async Task<Outcome<InvitationSeen>> LookAsync(string? secret, CancellationToken cancel)
    {
        if (await FindAsync(secret, cancel) is not { } found)
        {
            return Over();
        }

        string workspace = await db.Workspaces.Where(w => w.Id == found.WorkspaceId).Select(w => w.Name).SingleAsync(cancel);
        return new InvitationSeen(
            workspace,
            found.Mail,
            found.Role,
            found.MadeBy,
            found.UserId is not null,
            found.UserId is null && await IsMemberSomewhereAsync(await users.FindByEmailAsync(found.Mail), cancel)
        );
    }

    /// <summary>Uses a link up: the person joins, or has a new password, and is signed in.</summary>
    public async Task<Refusal?> UseAsync(InvitationUse use, HttpContext context, CancellationToken cancel)
    {
        if (await FindAsync(use.Secret, cancel) is not { } found)
        {
            return Over();
        }

        current.Id = found.WorkspaceId;
        string password = use.Password ?? "";
        var user = found.UserId is { } id ? await users.FindByIdAsync(id.ToString()) : await users.FindByEmailAsync(found.Mail);
        bool isKnown = found.UserId is null && await IsMemberSomewhereAsync(user, cancel);
        if (isKnown && await passwords.CheckAsync(context, found.Mail, user, password) is { } wrong)
        {
            return wrong;
        }

        if ((user?.DisplayName ?? PersonName.Read(use.Name)) is not { } name)
        {
            return AccountEndpoints.NameRefused();
        }

        if (!isKnown)
        {
            string workspace = await db.Workspaces.Where(w => w.Id == found.WorkspaceId).Select(w => w.Name).SingleAsync(cancel);
            var hosts = await db.SiteHosts.Select(h => h.Host).ToListAsync(cancel);
            if (PasswordCheck.WhyNot(password, [name, found.Mail, workspace, .. hosts]) is { } weak)
            {
                return weak;
            }
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Whoever is first has it: the link works once, also when it is used twice in the same moment.
        var now = clock.GetUtcNow();
        if (
            await db
                .Invitations.Where(i => i.Id == found.Id && i.UsedAt == null && i.RevokedAt == null)
                .ExecuteUpdateAsync(i => i.SetProperty(x => x.UsedAt, now), cancel) == 0
        )
        {
            return Over();
        }

        if (user is null)
        {
            user = new AppUser
            {
                UserName = found.Mail,
                Email = found.Mail,
                DisplayName = name,
            };
            var made = await users.CreateAsync(user, password);
            if (!made.Succeeded)
            {
                return Refusal.Invalid("password-refused", string.Join(" ", made.Errors.Select(e => e.Description)));
            }
        }
        else if (!isKnown)
        {
            await users.RemovePasswordAsync(user);
            await users.AddPasswordAsync(user, password);
            await sessions.EndOthersAsync(user.Id, kept: null, cancel);
        }

        if (found.UserId is null)
        {
            db.Members.Add(new Member { UserId = user.Id, Role = found.Role });
        }

        auditLog.Add(
            What,
            found.Id,
            new { found.Mail },
            new
            {
                found.Mail,
                Used = true,
                By = user.DisplayName,
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await sessions.BeginAsync(user, cancel);
        devices.Mark(context, user.Id);
        return null;
    }

    /// <summary>An account that is in no workspace any more opens nothing, so whoever is invited to it chooses its password anew.</summary>
    private async Task<bool> IsMemberSomewhereAsync(AppUser? user, CancellationToken cancel) =>
        user is not null && await db.Members.IgnoreQueryFilters().AnyAsync(m => m.UserId == user.Id, cancel);

    private async Task<Invitation?> FindAsync(string? secret, CancellationToken cancel)
    {
        if (secret is not { Length: > 0 and <= 100 })
        {
            return null;
        }

        byte[] hash = HashOf(secret);
        var now = clock.GetUtcNow();
        var found = await db
            .Invitations.IgnoreQueryFilters()
            .AsNoTracking()
            .SingleOrDefaultAsync(i => i.Hash == hash && i.UsedAt == null && i.RevokedAt == null && i.ExpiresAt > now, cancel);

        // A member who was taken out meanwhile has no password to choose.
        return
            found?.UserId is { } user
            && !await db.Members.IgnoreQueryFilters().AnyAsync(m => m.UserId == user && m.WorkspaceId == found.WorkspaceId, cancel)
            ? null
            : found;
    }

    private static string NameOf(Role role) => role.ToString().ToLowerInvariant();

    private static byte[] HashOf(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));

    private static Refusal Over() =>
        Refusal.Unacceptable("invitation-over", "This link was used already, was revoked, or is too old; ask an owner for another one.");
}
