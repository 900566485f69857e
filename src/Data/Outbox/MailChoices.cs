using Npgsql;

namespace PreciseBeacon.Data.Outbox;

/// <summary>Which mails members want. Nobody gets one they did not ask for.</summary>
public sealed class MailChoices(NpgsqlDataSource database)
{
    /// <summary>The kinds a member wants, in order.</summary>
    public async Task<IReadOnlyList<string>> OfAsync(Guid? workspace, Guid user, CancellationToken cancel)
    {
        await using var command = database.Command(
            "select kind from mail_choice where workspace_id = $1 and user_id = $2 order by kind",
            workspace,
            user
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var kinds = new List<string>();
        while (await reader.ReadAsync(cancel))
        {
            kinds.Add(reader.GetString(0));
        }

        return kinds;
    }

    /// <summary>Has a member get mails of a kind from now on, or none any more. Saying it twice changes nothing.</summary>
    public Task ChooseAsync(Guid? workspace, Guid user, string kind, bool wanted, CancellationToken cancel) =>
        database.RunAsync(
            wanted
                ? "insert into mail_choice (workspace_id, user_id, kind) select workspace_id, user_id, $3 from members where workspace_id = $1 and user_id = $2 on conflict do nothing"
                : "delete from mail_choice where workspace_id = $1 and user_id = $2 and kind = $3",
            cancel,
            workspace,
            user,
            kind
        );

    /// <summary>Members who want a kind, their addresses, and what their workspace is called.</summary>
    public async Task<IReadOnlyList<(Guid User, string Mail, string Workspace)>> WhoWantAsync(
        Guid workspace,
        string kind,
        CancellationToken cancel
    )
    {
        await using var command = database.Command(
            """
            select u.id, u.email, w.name from mail_choice c
            join workspaces w on w.id = c.workspace_id
            join members m on m.workspace_id = c.workspace_id and m.user_id = c.user_id
            join "AspNetUsers" u on u.id = c.user_id
            where c.workspace_id = $1 and c.kind = $2 and u.email is not null order by u.id
            """,
            workspace,
            kind
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var found = new List<(Guid, string, string)>();
        while (await reader.ReadAsync(cancel))
        {
            found.Add((reader.GetGuid(0), reader.GetString(1), reader.GetString(2)));
        }

        return found;
    }
}
