using Npgsql;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Data.Proofs;

/// <summary>
/// Finds tags on links inside one's own site, with the pages they stand on. They begin no visit (rules, section 6), but they would have
/// wiped out where it came from, and other systems let them.
/// </summary>
public sealed class InsideTagReader(NpgsqlDataSource database)
{
    /// <summary>Visits that are looked through, the newest ones (ours).</summary>
    private const int MostVisits = 5_000;

    /// <summary>The tagged links inside one's own sites that people followed, those most followed first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="most">So many at most.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyList<InsideTag>> ReadAsync(Guid workspaceId, DateOnly from, DateOnly to, int most, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        if (!(await VisitRulesReader.ReadAsync(connection, cancel)).TryGetValue(workspaceId, out var rules))
        {
            return [];
        }

        await using var command = new NpgsqlCommand(
            """
            select e.id, e.site_id, e.at, e.url, e.referrer, e.visitor
            from (
                select visitor, started_at, ended_at from visit where workspace_id = $1 and tagged_inside and day between $2 and $3
                order by started_at desc limit $4
            ) v
            join page_event e on e.workspace_id = $1 and e.visitor = v.visitor and e.at between v.started_at and v.ended_at
            where e.kind = $5 and e.referrer <> ''
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = from },
                new() { Value = to },
                new() { Value = MostVisits },
                new() { Value = (short)PageEventKind.View },
            },
        };
        var found = new Dictionary<(string Page, string To, string Tags), InsideTag>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var view = new RawPageEvent
            {
                Id = reader.GetGuid(0),
                WorkspaceId = workspaceId,
                SiteId = reader.GetGuid(1),
                At = reader.GetFieldValue<DateTimeOffset>(2),
                Kind = PageEventKind.View,
                Url = reader.GetString(3),
                Referrer = reader.GetString(4),
                Visitor = reader.GetGuid(5),
            };
            var arrival = Arrival.Read(view, rules);
            if (
                arrival is { FromOwnSite: true, Tags.Any: true }
                && DestinationReader.Read(view.Referrer).Destination is { } stands
                && rules.OwnHosts.Contains(stands.HostAndPort)
            )
            {
                var key = (stands.Page, arrival.Page, arrival.Tags.Json);
                var day = rules.DayOf(view.At);
                var known = found.GetValueOrDefault(key) ?? new InsideTag(stands.Page, arrival.Page, arrival.Tags.Values, 0, day, day);
                found[key] = known with
                {
                    Times = known.Times + 1,
                    First = day < known.First ? day : known.First,
                    Last = day > known.Last ? day : known.Last,
                };
            }
        }

        return
        [
            .. found
                .Values.OrderByDescending(f => f.Times)
                .ThenBy(f => f.StandsOn, StringComparer.Ordinal)
                .ThenBy(f => f.LeadsTo, StringComparer.Ordinal)
                .Take(most),
        ];
    }
}

/// <summary>A link inside one's own site that carries tags.</summary>
/// <param name="StandsOn">Host and path of the page it stands on, as far as browsers say.</param>
/// <param name="LeadsTo">Host and path of the page it leads to.</param>
/// <param name="Tags">Its tags by key.</param>
/// <param name="Times">How often somebody followed it.</param>
/// <param name="First">The day of the first time.</param>
/// <param name="Last">The day of the last time.</param>
public sealed record InsideTag(
    string StandsOn,
    string LeadsTo,
    IReadOnlyDictionary<string, string> Tags,
    long Times,
    DateOnly First,
    DateOnly Last
);
