using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data;

/// <summary>
/// Locks that make two people who change one thing in the same moment follow each other. Each holds until the transaction of the
/// caller ends; several rows are always locked in the order of their ids, so that nobody waits in a circle.
/// </summary>
public static class RowLock
{
    /// <summary>Any number that is no other advisory lock's; one installation is set up once.</summary>
    private const long FirstOwner = 7_005;

    /// <summary>Locks a link with its short links.</summary>
    public static Task LinkAsync(BeaconDb db, Guid id, CancellationToken cancel) => LinksAsync(db, [id], cancel);

    /// <summary>Locks many links.</summary>
    public static Task LinksAsync(BeaconDb db, Guid[] ids, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select 1 from links where id = any({ids}) order by id for no key update", cancel);

    /// <summary>Locks a mail.</summary>
    public static Task MailAsync(BeaconDb db, Guid id, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select 1 from mails where id = {id} for no key update", cancel);

    /// <summary>Locks a batch.</summary>
    public static Task BatchAsync(BeaconDb db, Guid id, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select 1 from batches where id = {id} for no key update", cancel);

    /// <summary>Locks a batch's run and reads it as it is then.</summary>
    public static Task<BatchRun> BatchRunAsync(BeaconDb db, Guid id, CancellationToken cancel) =>
        db.BatchRuns.FromSql($"select * from batch_runs where id = {id} for no key update").SingleAsync(cancel);

    /// <summary>Locks a campaign with its plan.</summary>
    /// <returns>False when the workspace has no such campaign.</returns>
    public static async Task<bool> CampaignAsync(BeaconDb db, Guid id, CancellationToken cancel) =>
        await db.Campaigns.FromSql($"select * from campaigns where id = {id} for no key update").AsNoTracking().SingleOrDefaultAsync(cancel)
            is not null;

    /// <summary>Locks a text of the workspace, such as an address that is about to be shortened.</summary>
    public static Task TextAsync(BeaconDb db, string text, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"select pg_advisory_xact_lock(hashtextextended({text}, {db.CurrentWorkspaceId!.Value.GetHashCode()}))",
            cancel
        );

    /// <summary>Locks what the workspace has as a whole: its members, sites and kinds of conversions, which few change and none twice at once.</summary>
    public static Task WorkspaceAsync(BeaconDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select 1 from workspaces where id = {db.CurrentWorkspaceId!.Value} for no key update", cancel);

    /// <summary>Locks the setting up of an empty installation.</summary>
    public static Task FirstOwnerAsync(BeaconDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({FirstOwner})", cancel);
}
