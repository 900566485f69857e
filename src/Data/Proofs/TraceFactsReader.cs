using Npgsql;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Reads what is known of a workspace's sites where a page is judged.</summary>
public sealed class TraceFactsReader(NpgsqlDataSource database)
{
    private static readonly TimeSpan Lately = TimeSpan.FromDays(7);

    /// <summary>The facts of a workspace at a moment.</summary>
    public async Task<TraceFacts> ReadAsync(Guid workspaceId, DateTimeOffset now, CancellationToken cancel)
    {
        await using var batch = database.CreateBatch();
        foreach (
            string sql in new[]
            {
                """
                    select h.host, s.name, s.measuring_key, s.last_measured_at > $2
                    from site_hosts h join sites s on s.id = h.site_id where h.workspace_id = $1
                    """,
                "select host, $2::timestamptz from approved_hosts where workspace_id = $1 and approved",
                """
                    select f.key, f.also_read, $2::timestamptz from field_row f
                    where f.convention_version_id = (
                        select id from convention_versions where workspace_id = $1 and published_at is not null order by number desc limit 1)
                    """,
            }
        )
        {
            batch.BatchCommands.Add(
                new NpgsqlBatchCommand(sql)
                {
                    Parameters =
                    {
                        new() { Value = workspaceId },
                        new() { Value = (now - Lately).ToUniversalTime() },
                    },
                }
            );
        }

        await using var reader = await batch.ExecuteReaderAsync(cancel);
        var sites = new Dictionary<string, TracedSite>();
        while (await reader.ReadAsync(cancel))
        {
            sites[reader.GetString(0)] = new TracedSite(
                reader.GetString(1),
                reader.GetString(2),
                !reader.IsDBNull(3) && reader.GetBoolean(3)
            );
        }

        await reader.NextResultAsync(cancel);
        var approved = new HashSet<string>();
        while (await reader.ReadAsync(cancel))
        {
            approved.Add(reader.GetString(0));
        }

        await reader.NextResultAsync(cancel);
        var keys = new List<string>();
        while (await reader.ReadAsync(cancel))
        {
            keys.Add(reader.GetString(0));
            keys.AddRange(reader.GetFieldValue<string[]>(1));
        }

        return new TraceFacts(new TagVocabulary(keys).IsTagLike, sites, approved);
    }
}
