using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Outbox;

namespace PreciseBeacon.Data.Outbox;

/// <summary>
/// Mails that wait to be sent. One is written together with what it is about, so there is never one without the other; any process may send it.
/// What stands in it is forgotten once it was handed over, because it may hold a link that opens something.
/// </summary>
public sealed class MailQueue(NpgsqlDataSource database)
{
    /// <summary>How long a process that claimed a mail has to send it; it died after that, and another one takes the mail.</summary>
    public static readonly TimeSpan ClaimHolds = TimeSpan.FromMinutes(2);

    /// <summary>Nobody gets more than one mail about the same matter in so long.</summary>
    public static readonly TimeSpan LeastPause = TimeSpan.FromHours(1);

    private const int MostForgotten = 1_000;
    private const int LongestAnswer = 500;

    /// <summary>Adds a mail within the transaction of <paramref name="db"/>, to the workspace it speaks for.</summary>
    public static Task AddAsync(BeaconDb db, string recipient, OutgoingMail mail, DateTimeOffset now, CancellationToken cancel)
    {
        var id = Guid.CreateVersion7(now);
        var workspace = db.CurrentWorkspaceId;
        string text = mail.Text(),
            html = mail.Html();
        return db.Database.ExecuteSqlAsync(
            $"insert into outgoing_mail (id, workspace_id, kind, recipient, subject, text, html, made_at, due_at) values ({id}, {workspace}, {mail.Kind}, {recipient}, {mail.Subject}, {text}, {html}, {now}, {now})",
            cancel
        );
    }

    /// <summary>
    /// Adds a mail somebody asked to be told by, within a transaction; none where one of the same kind went to them less than
    /// <see cref="LeastPause"/> ago.
    /// </summary>
    internal static async Task AddWantedAsync(
        NpgsqlConnection connection,
        Guid workspace,
        WantedMail wanted,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var command = connection.Command(
            """
            insert into outgoing_mail (id, workspace_id, kind, recipient, subject, text, html, made_at, due_at, stop_address)
            select $1, $2, $3, $4, $5, $6, $7, $8, $8, $9
            where not exists (select from outgoing_mail where workspace_id = $2 and id > $10 and kind = $3 and recipient = $4 and made_at > $11)
            """,
            Guid.CreateVersion7(now),
            workspace,
            wanted.Mail.Kind,
            wanted.Recipient,
            wanted.Mail.Subject,
            wanted.Mail.Text(),
            wanted.Mail.Html(),
            now.ToUniversalTime(),
            wanted.Mail.StopAddress,
            Guid.CreateVersion7(now - LeastPause - LeastPause),
            (now - LeastPause).ToUniversalTime()
        );
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>
    /// Notes that somebody forgot their password. Whether there is such an account is found out when the mail is sent, so that the answer takes
    /// the same time either way.
    /// </summary>
    public Task AddForgottenAsync(string recipient, DateTimeOffset now, CancellationToken cancel) =>
        database.RunAsync(
            """
            insert into outgoing_mail (id, kind, recipient, subject, made_at, due_at)
            select $1, 'forgotten', $2, '', $3, $3
            where (select count(*) from (select from outgoing_mail where kind = 'forgotten' and sent_at is null and given_up_at is null limit $4) f) < $4
            on conflict do nothing
            """,
            cancel,
            Guid.CreateVersion7(now),
            recipient,
            now,
            MostForgotten
        );

    /// <summary>Claims the mail that has waited longest, past those others have claimed.</summary>
    /// <returns>Null when none is due.</returns>
    public async Task<QueuedMail?> ClaimAsync(DateTimeOffset now, CancellationToken cancel)
    {
        await using var command = database.Command(
            """
            update outgoing_mail set claimed_until = $2, tries = tries + 1
            where id = (
                select id from outgoing_mail
                where sent_at is null and given_up_at is null and due_at <= $1 and (claimed_until is null or claimed_until <= $1)
                order by due_at limit 1 for update skip locked
            )
            returning id, workspace_id, kind, recipient, subject, text, html, made_at, tries, stop_address
            """,
            now,
            now + ClaimHolds
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel)
            ? new QueuedMail(
                reader.GetGuid(0),
                await reader.IsDBNullAsync(1, cancel) ? null : reader.GetGuid(1),
                reader.GetString(2),
                reader.GetString(3),
                reader.GetString(4),
                await reader.IsDBNullAsync(5, cancel) ? null : reader.GetString(5),
                await reader.IsDBNullAsync(6, cancel) ? null : reader.GetString(6),
                await reader.GetFieldValueAsync<DateTimeOffset>(7, cancel),
                reader.GetInt32(8),
                await reader.IsDBNullAsync(9, cancel) ? null : reader.GetString(9)
            )
            : null;
    }

    /// <summary>A mail was handed over.</summary>
    public Task SentAsync(Guid id, DateTimeOffset now, string answer, CancellationToken cancel) =>
        database.RunAsync(
            "update outgoing_mail set sent_at = $2, answer = $3, text = null, html = null, claimed_until = null where id = $1",
            cancel,
            id,
            now,
            Cut(answer)
        );

    /// <summary>A mail could not be handed over.</summary>
    /// <param name="next">When it is tried again; null to give it up.</param>
    public Task FailedAsync(Guid id, DateTimeOffset now, DateTimeOffset? next, string answer, CancellationToken cancel) =>
        next is null
            ? database.RunAsync(
                "update outgoing_mail set given_up_at = $2, answer = $3, text = null, html = null, claimed_until = null where id = $1",
                cancel,
                id,
                now,
                Cut(answer)
            )
            : database.RunAsync(
                "update outgoing_mail set due_at = $2, answer = $3, claimed_until = null where id = $1",
                cancel,
                id,
                next,
                Cut(answer)
            );

    /// <summary>A mail that is not to be sent: nobody has that address, or they had one just now.</summary>
    public Task DropAsync(Guid id, CancellationToken cancel) => database.RunAsync("delete from outgoing_mail where id = $1", cancel, id);

    /// <summary>The newest mails of a workspace.</summary>
    /// <param name="most">How many at most.</param>
    public async Task<IReadOnlyList<MailState>> ListAsync(Guid? workspace, int most, CancellationToken cancel)
    {
        await using var command = database.Command(
            """
            select id, kind, recipient, subject, made_at, sent_at, given_up_at, case when sent_at is null and given_up_at is null and tries > 0 then due_at end, tries, answer
            from outgoing_mail where workspace_id = $1 order by id desc limit $2
            """,
            workspace,
            most
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var mails = new List<MailState>();
        while (await reader.ReadAsync(cancel))
        {
            mails.Add(
                new MailState(
                    reader.GetGuid(0),
                    reader.GetString(1),
                    reader.GetString(2),
                    reader.GetString(3),
                    await reader.GetFieldValueAsync<DateTimeOffset>(4, cancel),
                    await MomentAsync(5),
                    await MomentAsync(6),
                    await MomentAsync(7),
                    reader.GetInt32(8),
                    await reader.IsDBNullAsync(9, cancel) ? null : reader.GetString(9)
                )
            );
        }

        return mails;

        async Task<DateTimeOffset?> MomentAsync(int column) =>
            await reader.IsDBNullAsync(column, cancel) ? null : await reader.GetFieldValueAsync<DateTimeOffset>(column, cancel);
    }

    private static string Cut(string answer) => answer.Length > LongestAnswer ? answer[..LongestAnswer] : answer;
}

/// <summary>A mail to be sent now.</summary>
/// <param name="WorkspaceId">Whose it is; null for a forgotten password.</param>
/// <param name="Text">As plain text; null where it is written only now.</param>
/// <param name="Tries">How often it was tried, this time included.</param>
/// <param name="StopAddress">Where such mails are ended; null for one that is not sent again.</param>
public sealed record QueuedMail(
    Guid Id,
    Guid? WorkspaceId,
    string Kind,
    string Recipient,
    string Subject,
    string? Text,
    string? Html,
    DateTimeOffset MadeAt,
    int Tries,
    string? StopAddress
);

/// <summary>A mail to somebody who asked to be told.</summary>
/// <param name="Recipient">Their mail address.</param>
/// <param name="Mail">What it says, with the way to end such mails by one click.</param>
public sealed record WantedMail(string Recipient, OutgoingMail Mail);

/// <summary>What became of a mail.</summary>
/// <param name="Kind">What it is for: <c>invitation</c>, <c>reset</c>, <c>test</c> or <c>page-findings</c>.</param>
/// <param name="Recipient">The mail address it goes to.</param>
/// <param name="Tries">How often it was tried.</param>
/// <param name="SentAt">When the mail server took it; null where it has not.</param>
/// <param name="GivenUpAt">When it was given up; null where it was not.</param>
/// <param name="NextTryAt">When it is tried again; null where it was not tried yet, was sent or was given up.</param>
/// <param name="Answer">What the mail server said last; null where it was not asked.</param>
public sealed record MailState(
    Guid Id,
    string Kind,
    string Recipient,
    string Subject,
    DateTimeOffset MadeAt,
    DateTimeOffset? SentAt,
    DateTimeOffset? GivenUpAt,
    DateTimeOffset? NextTryAt,
    int Tries,
    string? Answer
);
