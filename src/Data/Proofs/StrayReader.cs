using System.Data;
using System.Runtime.InteropServices;
using Npgsql;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Reads the ways visits arrived in a range, with the evidence that strays are judged by.</summary>
public sealed class StrayReader(NpgsqlDataSource database, VisitSegments segments, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    /// <summary>The sources of a workspace, with the visits each had from one day to another.</summary>
    public async Task<StrayTraffic> ReadAsync(Guid workspaceId, DateOnly from, DateOnly to, CancellationToken cancel)
    {
        var seen = new Dictionary<int, SourceSeen>();
        await foreach (var (day, visits) in EachAsync(workspaceId, from, to, cancel))
        {
            foreach (var (id, count) in visits.IdsOf(RowTable.Source).Counts())
            {
                ref var known = ref CollectionsMarshal.GetValueRefOrAddDefault(seen, id, out bool isThere);
                known = isThere ? known.With(count, day) : new SourceSeen(count, day, day);
            }
        }

        return new StrayTraffic(await sources.ReadAsync(workspaceId, cancel), seen, await plans.ReadAsync(workspaceId, cancel));
    }

    /// <summary>The pages that visits of some sources landed on, the most visited first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="from">First day.</param>
    /// <param name="to">Last day.</param>
    /// <param name="groupOf">The group of each source that is asked about.</param>
    /// <param name="most">So many pages of each group.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>By group; a group without visits is not there.</returns>
    public async Task<IReadOnlyDictionary<int, IReadOnlyList<(string Page, long Visits)>>> PagesAsync(
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        IReadOnlyDictionary<int, int> groupOf,
        int most,
        CancellationToken cancel
    )
    {
        var counts = new Dictionary<(int Group, int Page), long>();
        if (groupOf.Count > 0)
        {
            await foreach (var (_, visits) in EachAsync(workspaceId, from, to, cancel))
            {
                Count(visits, groupOf, counts);
            }
        }

        var chosen = counts
            .GroupBy(c => c.Key.Group)
            .ToDictionary(g => g.Key, g => g.OrderByDescending(c => c.Value).ThenBy(c => c.Key.Page).Take(most).ToList());
        var names = await NamesAsync(workspaceId, [.. chosen.Values.SelectMany(g => g.Select(c => c.Key.Page)).Distinct()], cancel);
        return chosen.ToDictionary(
            g => g.Key,
            IReadOnlyList<(string, long)> (g) => [.. g.Value.Select(c => (names.GetValueOrDefault(c.Key.Page, ""), c.Value))]
        );
    }

    private static void Count(VisitColumns visits, IReadOnlyDictionary<int, int> groupOf, Dictionary<(int Group, int Page), long> counts)
    {
        var from = visits.IdsOf(RowTable.Source);
        int[] groups = new int[from.Ids.Length];
        bool any = false;
        for (int i = 0; i < groups.Length; i++)
        {
            groups[i] = groupOf.GetValueOrDefault(from.Ids[i], -1);
            any |= groups[i] >= 0;
        }

        if (!any)
        {
            return;
        }

        var pages = visits.IdsOf(RowTable.LandingPage);
        for (int visit = 0; visit < visits.Count; visit++)
        {
            if (groups[from.Places[visit]] is >= 0 and var group)
            {
                CollectionsMarshal.GetValueRefOrAddDefault(counts, (group, pages[visit]), out _)++;
            }
        }
    }

    private async IAsyncEnumerable<(DateOnly Day, VisitColumns Visits)> EachAsync(
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        await foreach (var part in segments.ReadAsync(connection, workspaceId, from, to, cancel))
        {
            yield return part;
        }
    }

    private async Task<Dictionary<int, string>> NamesAsync(Guid workspaceId, int[] ids, CancellationToken cancel)
    {
        var names = new Dictionary<int, string>();
        await using var command = database.CreateCommand("select id, address from visited_page where workspace_id = $1 and id = any($2)");
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = ids });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            names[reader.GetInt32(0)] = reader.GetString(1);
        }

        return names;
    }
}

/// <summary>The ways visits arrived in a range.</summary>
/// <param name="Sources">Every source of the workspace, in the order of their ids.</param>
/// <param name="Seen">What was seen of those that had visits in the range, by id.</param>
/// <param name="Plan">The plan of today, with what is assigned.</param>
public sealed record StrayTraffic(IReadOnlyList<TrafficSource> Sources, IReadOnlyDictionary<int, SourceSeen> Seen, PlanOfVisits Plan)
{
    private readonly Dictionary<int, TrafficSource> _byId = Sources.ToDictionary(s => s.Id);

    /// <summary>The source of an id.</summary>
    public TrafficSource Of(int id) => _byId[id];

    /// <summary>How many visits a source had in the range.</summary>
    public long VisitsOf(int id) => Seen.GetValueOrDefault(id).Visits;
}

/// <summary>What was seen of a source in a range.</summary>
/// <param name="Visits">How many visits.</param>
/// <param name="First">The day of the first.</param>
/// <param name="Last">The day of the last.</param>
public readonly record struct SourceSeen(long Visits, DateOnly First, DateOnly Last)
{
    /// <summary>The same with more visits of a day.</summary>
    public SourceSeen With(long visits, DateOnly day) => new(Visits + visits, day < First ? day : First, day > Last ? day : Last);
}
