using System.Text.RegularExpressions;
using Npgsql;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Traffic;

/// <summary>A host that visits came back from shortly after an earlier one, and then converted.</summary>
/// <param name="Host">The host, with its port where it has one.</param>
/// <param name="Visits">How many visits, in the last 30 days.</param>
public sealed record SuggestedHost(string Host, long Visits);

/// <summary>Finds the visits that a host people pass through matters to.</summary>
public sealed class PassingVisits(NpgsqlDataSource database, TrafficSourceCache sources)
{
    private const int FewestSuggested = 3;
    private const int MostSuggested = 5;

    /// <summary>How many visits came from a host, or from one below it.</summary>
    public async Task<long> CountAsync(Guid workspaceId, string host, CancellationToken cancel)
    {
        await using var command = database.CreateCommand("select count(*) from visit where workspace_id = $1 and source_id = any($2)");
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = await SourcesAsync(workspaceId, host, cancel) });
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }

    /// <summary>Has the visits that came from a host worked out again: people pass through it from now on.</summary>
    public static Task MarkVisitsAsync(NpgsqlConnection connection, Guid workspaceId, int[] sourceIds, CancellationToken cancel) =>
        RunAsync(
            connection,
            """
            insert into visit_due (workspace_id, visitor, day, later)
            select distinct workspace_id, visitor, day, true from visit where workspace_id = $1 and source_id = any($2)
            """,
            cancel,
            workspaceId,
            sourceIds
        );

    /// <summary>Has visits worked out again in which people came back from a host: that begins one from now on.</summary>
    public static Task MarkEventsAsync(NpgsqlConnection connection, Guid workspaceId, string host, CancellationToken cancel) =>
        RunAsync(
            connection,
            """
            insert into visit_due (workspace_id, visitor, day, later)
            select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date, true
            from page_event e join workspaces w on w.id = e.workspace_id
            where e.workspace_id = $1 and e.referrer ~* $2
            """,
            cancel,
            workspaceId,
            $"^https?://([^/?#]*[.@])?{Regex.Escape(host)}(:[0-9]*)?([/?#]|$)"
        );

    /// <summary>The sources with a host, or one below it, as their referrer.</summary>
    public async Task<int[]> SourcesAsync(Guid workspaceId, string host, CancellationToken cancel)
    {
        var alone = new HashSet<string> { host };
        return
        [
            .. (await sources.ReadAsync(workspaceId, cancel))
                .Where(s => s.ReferrerHost.Length > 0 && Core.Outside.RefusedHosts.Find(alone, s.ReferrerHost) is not null)
                .Select(s => s.Id),
        ];
    }

    /// <summary>Hosts that people seem to pass through before they buy: those that converting visits came from within the pause of an earlier visit, the most first.</summary>
    public async Task<List<SuggestedHost>> SuggestAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select s.referrer_host, count(*)
            from visit v join traffic_source s on s.id = v.source_id
            where v.workspace_id = $1 and v.day >= current_date - 30 and v.conversions > 0 and s.referrer_host <> '' and s.tags = '{}'
                and exists (
                    select from visit p where p.workspace_id = v.workspace_id and p.visitor = v.visitor and p.day = v.day
                        and p.started_at < v.started_at and p.ended_at >= v.started_at - $2 and p.source_id <> v.source_id
                )
            group by 1 having count(*) >= $3 order by 2 desc, 1 limit $4
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = Core.Traffic.VisitRules.Gap });
        command.Parameters.Add(new() { Value = FewestSuggested });
        command.Parameters.Add(new() { Value = MostSuggested });
        var found = new List<SuggestedHost>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add(new SuggestedHost(reader.GetString(0), reader.GetInt64(1)));
        }

        return found;
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }
}
