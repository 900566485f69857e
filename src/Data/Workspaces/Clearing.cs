using Npgsql;

namespace PreciseBeacon.Data.Workspaces;

/// <summary>Clears what has had its time, a bounded number of rows at once, so that nobody waits for it.</summary>
public sealed class Clearing(NpgsqlDataSource database)
{
    private const int AtOnce = 5_000;

    /// <summary>Answers kept for requests that come again.</summary>
    public Task<int> IdempotentAnswersAsync(DateTimeOffset before, CancellationToken cancel) =>
        ClearAsync(
            "delete from idempotent_answers where ctid in (select ctid from idempotent_answers where created_at < $1 limit $2)",
            before,
            cancel
        );

    /// <summary>Changes of short links every process has heard of, but for the newest, which the counting goes on from.</summary>
    public Task<int> SlugChangesAsync(DateTimeOffset before, CancellationToken cancel) =>
        ClearAsync(
            "delete from slug_change where seq in (select seq from slug_change where told_at < $1 and seq < (select max(seq) from slug_change) order by seq limit $2)",
            before,
            cancel
        );

    /// <summary>Sessions that were not used since, or began before.</summary>
    public async Task<int> SessionsAsync(DateTimeOffset seenBefore, DateTimeOffset startedBefore, CancellationToken cancel) =>
        await ClearAsync(
            "delete from user_sessions where id in (select id from user_sessions where seen_at < $1 limit $2)",
            seenBefore,
            cancel
        )
        + await ClearAsync(
            "delete from user_sessions where id in (select id from user_sessions where started_at < $1 limit $2)",
            startedBefore,
            cancel
        );

    /// <summary>Mails that were sent or given up; ids are ordered by time (RFC 9562, section 5.7), and the oldest are looked at first.</summary>
    public Task<int> MailsAsync(DateTimeOffset before, CancellationToken cancel) =>
        ClearAsync(
            "delete from outgoing_mail where id in (select id from outgoing_mail where made_at < $1 and (sent_at is not null or given_up_at is not null) order by id limit $2)",
            before,
            cancel
        );

    private async Task<int> ClearAsync(string sql, DateTimeOffset before, CancellationToken cancel)
    {
        int all = 0;
        for (int cleared = AtOnce; cleared == AtOnce; all += cleared)
        {
            await using var command = database.CreateCommand(sql);
            command.Parameters.Add(new() { Value = before.ToUniversalTime() });
            command.Parameters.Add(new() { Value = AtOnce });
            cleared = await command.ExecuteNonQueryAsync(cancel);
        }

        return all;
    }
}
