using Npgsql;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Says when visits last landed on pages, and how often the links to one were clicked since.</summary>
public sealed class PageLandings(NpgsqlDataSource database, VisitSegments segments)
{
    /// <summary>The last day a visit landed on each page, by host and path, from one day to another.</summary>
    public async Task<IReadOnlyDictionary<string, DateOnly>> LastAsync(
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        var last = new Dictionary<int, DateOnly>();
        await using (await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel))
        {
            await foreach (var (day, visits) in segments.ReadAsync(connection, workspaceId, from, to, cancel))
            {
                foreach (int page in visits.IdsOf(RowTable.LandingPage).Ids)
                {
                    if (!last.TryGetValue(page, out var known) || known < day)
                    {
                        last[page] = day;
                    }
                }
            }
        }

        var named = new Dictionary<string, DateOnly>(StringComparer.Ordinal);
        await using var command = new NpgsqlCommand(
            "select id, address from visited_page where workspace_id = $1 and id = any($2)",
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = last.Keys.ToArray() },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            named[reader.GetString(1)] = last[reader.GetInt32(0)];
        }

        return named;
    }

    /// <summary>Clicks by people, after a day, on the links that lead to a page.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="page">Where they lead, without tags.</param>
    /// <param name="after">Days after this one count, in the workspace's zone.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<long> ClicksAsync(Guid workspaceId, string page, DateOnly after, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select count(*) from links l join short_links s on s.link_id = l.id
            join click c on c.short_link_id = s.id and c.kind = $4 and c.day > $3 and c.at > $3::timestamp - interval '1 day'
            where l.workspace_id = $1 and coalesce(l.leads_to, l.destination) = $2
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = page });
        command.Parameters.Add(new() { Value = after });
        command.Parameters.Add(new() { Value = nameof(HitKind.Person) });
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }
}
