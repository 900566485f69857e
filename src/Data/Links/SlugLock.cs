using Microsoft.EntityFrameworkCore;

namespace PreciseBeacon.Data.Links;

/// <summary>
/// Whoever writes short links takes turns from before the first one until the commit: their changes are numbered in the
/// order of commits, and two who want the same slugs in another order would block each other.
/// </summary>
public static class SlugLock
{
    /// <summary>The lock <c>tell_slug_change</c> takes for whoever has not taken it before.</summary>
    public const long Id = 7_001;

    /// <summary>Waits for one's turn. To be called within a transaction, after existing links were locked and before anything new is written.</summary>
    public static Task TakeAsync(BeaconDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock({Id})", cancel);
}
