using Npgsql;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Hits and visits of trials, which stand beside those that are counted and never among them.</summary>
internal static class TrialTraffic
{
    /// <summary>
    /// The openings of trials' addresses that may have led to a view among some events. What led to another visitor's visit already, who
    /// is behind the same address with the same browser, is not among them.
    /// </summary>
    public static async Task<IReadOnlyList<TrialHit>> HitsAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<RawPageEvent> events,
        CancellationToken cancel
    )
    {
        if (events.Count == 0)
        {
            return [];
        }

        // Trials are few: however many visitors are worked out, only those of that time are read.
        await using var command = new NpgsqlCommand(
            """
            select h.id, h.trial_id, h.workspace_id, h.at, h.visitor, t.page_keys, h.address
            from trial_hit h join trial t on t.id = h.trial_id
            where h.at between $1 and $2 and h.outcome = $3
                and not exists (select from trial_visit v where v.trial_id = h.trial_id and v.hit_id = h.id and v.visitor <> all($4))
            """,
            connection
        );
        command.Parameters.Add(new() { Value = events.Min(e => e.At).ToUniversalTime() - VisitLinks.HitWithin });
        command.Parameters.Add(new() { Value = events.Max(e => e.At).ToUniversalTime() });
        command.Parameters.Add(new() { Value = (short)RouteOutcome.Redirects });
        command.Parameters.Add(new() { Value = events.Select(e => e.Visitor).Distinct().ToArray() });
        var hits = new List<TrialHit>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            hits.Add(
                new TrialHit(
                    reader.GetGuid(0),
                    reader.GetGuid(1),
                    reader.GetGuid(2),
                    reader.GetFieldValue<DateTimeOffset>(3),
                    reader.GetGuid(4),
                    [.. reader.GetFieldValue<long[]>(5), PageKey.OfAddress(reader.IsDBNull(6) ? null : reader.GetString(6))]
                )
            );
        }

        return hits;
    }

    /// <summary>Puts newly worked out visits of trials in place of those of the same visitors and days.</summary>
    public static async Task ReplaceVisitsAsync(
        NpgsqlConnection connection,
        IReadOnlyList<VisitorDay> days,
        IReadOnlyList<Visit> visits,
        CancellationToken cancel
    )
    {
        await using var batch = new NpgsqlBatch(connection);
        batch.BatchCommands.Add(
            new NpgsqlBatchCommand(
                """
                delete from trial_visit v using unnest($1, $2, $3) as d(workspace_id, visitor, day)
                where v.workspace_id = d.workspace_id and v.visitor = d.visitor and v.day = d.day
                """
            )
            {
                Parameters =
                {
                    new() { Value = days.Select(d => d.WorkspaceId).ToArray() },
                    new() { Value = days.Select(d => d.Visitor).ToArray() },
                    new() { Value = days.Select(d => d.Day).ToArray() },
                },
            }
        );
        foreach (var visit in visits)
        {
            batch.BatchCommands.Add(
                new NpgsqlBatchCommand(
                    """
                    insert into trial_visit (id, workspace_id, trial_id, hit_id, visitor, day, started_at, site_id, tags, referrer_host, landing_page)
                    values ($1, $2, $3, $4, $5, $6, $7, $8, $9::jsonb, $10, $11)
                    """
                )
                {
                    Parameters =
                    {
                        new() { Value = visit.Id },
                        new() { Value = visit.WorkspaceId },
                        new() { Value = visit.Trial!.TrialId },
                        new() { Value = visit.Trial.Id },
                        new() { Value = visit.Visitor },
                        new() { Value = visit.Day },
                        new() { Value = visit.StartedAt.ToUniversalTime() },
                        new() { Value = visit.SiteId },
                        new() { Value = visit.Tags.Json },
                        new() { Value = visit.ReferrerHost },
                        new() { Value = visit.LandingPage },
                    },
                }
            );
        }

        await batch.ExecuteNonQueryAsync(cancel);
    }
}
