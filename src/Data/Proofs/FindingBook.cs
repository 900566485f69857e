using Npgsql;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Keeps the findings of all checks: since when each is there, what it touched then, and until when it is quiet.</summary>
public sealed class FindingBook(NpgsqlDataSource database)
{
    /// <summary>Findings are gathered so often where nothing happened that would change them (ours).</summary>
    public static readonly TimeSpan Every = TimeSpan.FromHours(1);

    /// <summary>A finding that is gone is listed so long (ours).</summary>
    private static readonly TimeSpan GoneFor = TimeSpan.FromDays(14);

    /// <summary>Takes a workspace whose findings are to be gathered; null where none is due.</summary>
    public async Task<Guid?> TakeDueAsync(DateTimeOffset now, CancellationToken cancel)
    {
        await using var command = database.Command(
            """
            update workspaces set findings_at = $1, findings_next = $2
            where id = (select id from workspaces where findings_next <= $1 order by findings_next limit 1 for no key update skip locked)
            returning id
            """,
            now.ToUniversalTime(),
            (now + Every).ToUniversalTime()
        );
        return await command.ExecuteScalarAsync(cancel) as Guid?;
    }

    /// <summary>Has the findings of a workspace gathered soon, since something changed them.</summary>
    public Task MarkDueAsync(Guid workspaceId, CancellationToken cancel) =>
        database.RunAsync("update workspaces set findings_next = now() where id = $1 and findings_next > now()", cancel, workspaceId);

    /// <summary>Keeps what is found now; what is found no longer is gone. One that comes back counts as found now.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="found">The findings, each key once.</param>
    /// <param name="now">The moment.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task KeepAsync(Guid workspaceId, IReadOnlyList<ListedFinding> found, DateTimeOffset now, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var batch = new NpgsqlBatch(connection);
        batch.Add(
            """
            insert into proof_finding (id, workspace_id, key, area, about, severity, subject, message, weight, weight_then, first_seen)
            select f.id, $1, f.key, f.area, f.about, f.severity, f.subject, f.message, f.weight, f.weight, $10
            from unnest($2, $3, $4, $5, $6, $7, $8, $9) as f(id, key, area, about, severity, subject, message, weight)
            order by f.key
            on conflict (workspace_id, md5(key)) do update set
                area = excluded.area, about = excluded.about, severity = excluded.severity, subject = excluded.subject,
                message = excluded.message, weight = excluded.weight,
                weight_then = case when proof_finding.gone_at is null then proof_finding.weight_then else excluded.weight end,
                first_seen = case when proof_finding.gone_at is null then proof_finding.first_seen else excluded.first_seen end,
                gone_at = null
            """,
            workspaceId,
            found.Select(_ => Guid.CreateVersion7(now)).ToArray(),
            found.Select(f => f.Key).ToArray(),
            found.Select(f => (short)f.Area).ToArray(),
            found.Select(f => f.About).ToArray(),
            found.Select(f => (short)f.Severity).ToArray(),
            found.Select(f => f.Subject).ToArray(),
            found.Select(f => f.Message).ToArray(),
            found.Select(f => f.Weight).ToArray(),
            now.ToUniversalTime()
        );
        batch.Add(
            "update proof_finding set gone_at = $3 where workspace_id = $1 and gone_at is null and not key = any($2)",
            workspaceId,
            found.Select(f => f.Key).ToArray(),
            now.ToUniversalTime()
        );
        batch.Add("delete from proof_finding where workspace_id = $1 and gone_at < $2", workspaceId, (now - GoneFor).ToUniversalTime());
        await batch.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Leaves a finding out of the count until a moment, or no longer.</summary>
    /// <returns>False where there is none such.</returns>
    public async Task<bool> QuietAsync(
        Guid workspaceId,
        Guid id,
        DateTimeOffset? until,
        string? reason,
        string? by,
        CancellationToken cancel
    ) =>
        await database.RunAsync(
            "update proof_finding set quiet_until = $3, quiet_reason = $4, quiet_by = $5 where workspace_id = $1 and id = $2",
            cancel,
            workspaceId,
            id,
            until?.ToUniversalTime(),
            reason,
            by
        ) > 0;

    /// <summary>The findings of a workspace, and when they were gathered; null for not yet.</summary>
    public async Task<(DateTimeOffset? At, IReadOnlyList<KeptFinding> Findings)> ReadAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var batch = database.CreateBatch();
        batch.Add("select findings_at from workspaces where id = $1", workspaceId);
        batch.Add(
            """
            select id, key, area, about, severity, subject, message, weight, weight_then, first_seen, gone_at, quiet_until, quiet_reason, quiet_by
            from proof_finding where workspace_id = $1 order by first_seen desc, id
            """,
            workspaceId
        );
        await using var reader = await batch.ExecuteReaderAsync(cancel);
        DateTimeOffset? at = await reader.ReadAsync(cancel) && !reader.IsDBNull(0) ? reader.GetFieldValue<DateTimeOffset>(0) : null;
        await reader.NextResultAsync(cancel);
        var findings = new List<KeptFinding>();
        while (await reader.ReadAsync(cancel))
        {
            findings.Add(
                new KeptFinding(
                    reader.GetGuid(0),
                    new ListedFinding(
                        reader.GetString(1),
                        (FindingArea)reader.GetInt16(2),
                        reader.GetString(3),
                        (Severity)reader.GetInt16(4),
                        reader.GetString(5),
                        reader.GetString(6),
                        reader.GetInt64(7)
                    ),
                    reader.GetInt64(8),
                    reader.GetFieldValue<DateTimeOffset>(9),
                    reader.IsDBNull(10) ? null : reader.GetFieldValue<DateTimeOffset>(10),
                    reader.IsDBNull(11) ? null : reader.GetFieldValue<DateTimeOffset>(11),
                    reader.IsDBNull(12) ? null : reader.GetString(12),
                    reader.IsDBNull(13) ? null : reader.GetString(13)
                )
            );
        }

        return (at, findings);
    }
}

/// <summary>A finding as it is kept.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Found">What was found, as it stood last.</param>
/// <param name="Then">How much it touched when it was found.</param>
/// <param name="FirstSeen">When it was found.</param>
/// <param name="GoneAt">Since when it is found no longer; null while it is.</param>
/// <param name="QuietUntil">Until when it is left out of the count; null for not.</param>
/// <param name="QuietReason">Why.</param>
/// <param name="QuietBy">Who said so.</param>
public sealed record KeptFinding(
    Guid Id,
    ListedFinding Found,
    long Then,
    DateTimeOffset FirstSeen,
    DateTimeOffset? GoneAt,
    DateTimeOffset? QuietUntil,
    string? QuietReason,
    string? QuietBy
);
