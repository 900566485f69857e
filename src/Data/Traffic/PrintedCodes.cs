using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Finds the visits that came through a printed code: the same visitor of the day scanned a code whose answer led to
/// the page the visit began on, at most <see cref="ScannedWithin"/> before.
/// </summary>
internal static class PrintedCodes
{
    /// <summary>How long after a scan its visit begins at the latest (ours).</summary>
    internal static readonly TimeSpan ScannedWithin = TimeSpan.FromMinutes(2);

    /// <summary>The visits in the same order, those through a code marked; one that goes on from such a visit is too.</summary>
    public static async Task<List<Visit>> MarkAsync(NpgsqlConnection connection, List<Visit> visits, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select v.id
            from unnest($1, $2, $3, $4, $5, $6) as v(id, workspace_id, visitor, at, page, page_key)
            where exists (
                select from hit h
                join short_links s on s.id = h.short_link_id and s.use = 'Code'
                join links l on l.id = s.link_id and (h.page_key = v.page_key or (h.page_key = 0 and l.page = v.page))
                where h.workspace_id = v.workspace_id and h.visitor = v.visitor and h.at between v.at - $7 and v.at)
            """,
            connection
        );
        command.Parameters.Add(new() { Value = visits.Select(v => v.Id).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.WorkspaceId).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.DayVisitor).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.StartedAt).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.LandingPage).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => PageKey.Of(v.LandingPage)).ToArray() });
        command.Parameters.Add(new() { Value = ScannedWithin });
        var printed = new HashSet<Guid>();
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                printed.Add(reader.GetGuid(0));
            }
        }

        return printed.Count == 0 ? visits : [.. visits.Select(v => printed.Contains(v.SourceVisit) ? v with { Printed = true } : v)];
    }
}
