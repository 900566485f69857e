using Microsoft.EntityFrameworkCore;

namespace PreciseBeacon.Data;

/// <summary>What was answered to requests that must be done once only, by the key the caller chose.</summary>
public sealed class IdempotentAnswers(BeaconDb db, TimeProvider clock)
{
    /// <summary>Takes a key for a request; a second request with it waits here until the first one's transaction has ended.</summary>
    /// <returns>True for whoever is first.</returns>
    public async Task<bool> TakeAsync(string key, byte[] requestHash, CancellationToken cancel) =>
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into idempotent_answers (workspace_id, key, request_hash, answer, created_at)
            values ({db.CurrentWorkspaceId}, {key}, {requestHash}, 'null', {clock.GetUtcNow()}) on conflict do nothing
            """,
            cancel
        ) == 1;

    /// <summary>Keeps the answer to the request that took a key.</summary>
    public Task KeepAsync(string key, string json, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"update idempotent_answers set answer = {json}::jsonb where workspace_id = {db.CurrentWorkspaceId} and key = {key}",
            cancel
        );
}
