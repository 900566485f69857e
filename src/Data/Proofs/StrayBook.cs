using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Proofs.Strays;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Keeps what strays are assigned to.</summary>
public sealed class StrayBook(NpgsqlDataSource database)
{
    /// <summary>Assignments of a workspace at most (ours); a convention that needs more wants words and aliases.</summary>
    public const int Most = 5_000;

    /// <summary>Keeps assignments; one of the same stray takes the place of that before.</summary>
    /// <returns>False where there would be more than <see cref="Most"/>; none is kept then.</returns>
    public async Task<bool> AddAsync(
        Guid workspaceId,
        IReadOnlyList<StrayAssignment> assignments,
        string who,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var batch = new NpgsqlBatch(connection);
        batch.Add("select 1 from workspaces where id = $1 for no key update", workspaceId);
        batch.Add(
            """
            insert into stray_assignment (id, workspace_id, stray, key, field, given, meant, assigned_by, assigned_at)
            select a.id, $1, a.stray, a.key, a.field, a.given::jsonb, a.meant::jsonb, $8, $9
            from unnest($2, $3, $4, $5, $6, $7) as a(id, stray, key, field, given, meant)
            on conflict (workspace_id, md5(stray)) do update set id = excluded.id, key = excluded.key, field = excluded.field,
                given = excluded.given, meant = excluded.meant, assigned_by = excluded.assigned_by, assigned_at = excluded.assigned_at
            """,
            workspaceId,
            assignments.Select(a => a.Id).ToArray(),
            assignments.Select(a => a.Stray).ToArray(),
            assignments.Select(a => a.Key).ToArray(),
            assignments.Select(a => a.Field).ToArray(),
            assignments.Select(a => JsonSerializer.Serialize(a.When)).ToArray(),
            assignments.Select(a => JsonSerializer.Serialize(a.Then)).ToArray(),
            who,
            now.ToUniversalTime()
        );
        batch.Add("select count(*) <= $2 from stray_assignment where workspace_id = $1", workspaceId, Most);
        bool fits;
        await using (var reader = await batch.ExecuteReaderAsync(cancel))
        {
            await reader.NextResultAsync(cancel);
            fits = await reader.ReadAsync(cancel) && reader.GetBoolean(0);
        }

        if (fits)
        {
            await transaction.CommitAsync(cancel);
        }

        return fits;
    }

    /// <summary>Takes assignments back.</summary>
    /// <returns>What they were; those that are not there are left out.</returns>
    public async Task<IReadOnlyList<KeptAssignment>> RemoveAsync(Guid workspaceId, Guid[] ids, CancellationToken cancel) =>
        await ReadAsync(
            "delete from stray_assignment where workspace_id = $1 and id = any($2) returning id, key, field, given, meant, assigned_by, assigned_at",
            cancel,
            workspaceId,
            ids
        );

    /// <summary>What is assigned, the newest first.</summary>
    public async Task<IReadOnlyList<KeptAssignment>> ReadAsync(Guid workspaceId, CancellationToken cancel) =>
        await ReadAsync(
            """
            select id, key, field, given, meant, assigned_by, assigned_at from stray_assignment where workspace_id = $1
            order by assigned_at desc, id
            """,
            cancel,
            workspaceId
        );

    private async Task<IReadOnlyList<KeptAssignment>> ReadAsync(string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = database.Command(sql, values);
        var found = new List<KeptAssignment>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add(
                new KeptAssignment(
                    new StrayAssignment(
                        reader.GetGuid(0),
                        reader.IsDBNull(1) ? null : reader.GetString(1),
                        reader.IsDBNull(2) ? null : reader.GetString(2),
                        TextsOf(reader.GetString(3)),
                        TextsOf(reader.GetString(4))
                    ),
                    reader.GetString(5),
                    reader.GetFieldValue<DateTimeOffset>(6)
                )
            );
        }

        return found;
    }

    private static Dictionary<string, string> TextsOf(string json) => JsonSerializer.Deserialize<Dictionary<string, string>>(json) ?? [];
}

/// <summary>An assignment with who made it.</summary>
/// <param name="Assignment">What it says.</param>
/// <param name="By">Who made it.</param>
/// <param name="At">When.</param>
public sealed record KeptAssignment(StrayAssignment Assignment, string By, DateTimeOffset At);
