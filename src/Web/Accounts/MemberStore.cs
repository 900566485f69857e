using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Who belongs to the workspace, and what each may do. There is always an owner.</summary>
public sealed class MemberStore(BeaconDb db, InvitationBook invitations, SessionKeeper sessions, AuditLog auditLog)
{
    private const string What = "member";

    /// <summary>Members by name, and the invitations that can still be used.</summary>
    public async Task<MembersAnswer> ListAsync(Guid? self, CancellationToken cancel)
    {
        var members = await db
            .Members.AsNoTracking()
            .OrderBy(m => m.User!.DisplayName)
            .Select(m => new
            {
                m.Id,
                m.UserId,
                m.User!.DisplayName,
                m.User.Email,
                m.Role,
                SeenAt = db.UserSessions.Where(s => s.UserId == m.UserId).Max(s => (DateTimeOffset?)s.SeenAt),
            })
            .ToListAsync(cancel);
        return new MembersAnswer(
            [.. members.Select(m => new MemberAnswer(m.Id, m.DisplayName, m.Email!, m.Role, m.UserId == self, m.SeenAt))],
            await invitations.OpenAsync(cancel)
        );
    }

    /// <summary>Gives a member another role.</summary>
    public async Task<Refusal?> ChangeAsync(Guid id, Role role, CancellationToken cancel)
    {
        if (role is Role.Shortener or Role.Measuring)
        {
            return Refusal.Invalid("role-refused", "People are owners, editors or viewers; only keys can be made for shortening alone.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await RowLock.WorkspaceAsync(db, cancel);
        if (await FindAsync(id, cancel) is not { } member)
        {
            return Refusal.NotFound("member");
        }

        if (role != Role.Owner && await IsLastOwnerAsync(member, cancel))
        {
            return LastOwner(member);
        }

        auditLog.Add(What, id, new { member.Role, member.User!.DisplayName }, new { Role = role, member.User.DisplayName });
        member.Role = role;
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>Takes a member out of the workspace; their sessions end at once, and what they made stays.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await RowLock.WorkspaceAsync(db, cancel);
        if (await FindAsync(id, cancel) is not { } member)
        {
            return Refusal.NotFound("member");
        }

        if (await IsLastOwnerAsync(member, cancel))
        {
            return LastOwner(member);
        }

        db.Members.Remove(member);
        auditLog.Add(What, id, new { member.Role, member.User!.DisplayName }, null);
        await db.SaveChangesAsync(cancel);
        await sessions.EndOthersAsync(member.UserId, kept: null, cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>Makes a link by which a member chooses a new password.</summary>
    public async Task<Outcome<InvitationMade>> ResetAsync(Guid id, CancellationToken cancel) =>
        await FindAsync(id, cancel) is { } member
            ? await invitations.MakeAsync(member.User!.Email!, member.Role, member.UserId, cancel, mailed: true)
            : Refusal.NotFound("member");

    private Task<Member?> FindAsync(Guid id, CancellationToken cancel) =>
        db.Members.Include(m => m.User).SingleOrDefaultAsync(m => m.Id == id, cancel);

    private async Task<bool> IsLastOwnerAsync(Member member, CancellationToken cancel) =>
        member.Role == Role.Owner && await db.Members.CountAsync(m => m.Role == Role.Owner, cancel) == 1;

    private static Refusal LastOwner(Member member) =>
        Refusal.Conflict("last-owner", $"{member.User!.DisplayName} is the only owner; make somebody else an owner first.");
}
