using System.Collections.Concurrent;
using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// The traffic sources of workspaces, held in memory. A source never changes and new ones have greater ids, so only those that came since
/// are read. Of more than <see cref="MostWorkspaces"/> workspaces the one longest not asked for gives way.
/// </summary>
public sealed class TrafficSourceCache(NpgsqlDataSource database)
{
    private const int MostWorkspaces = 50;

    private readonly ConcurrentDictionary<Guid, Held> _held = new();
    private long _asked;

    /// <summary>All sources of a workspace, in the order of their ids.</summary>
    public async Task<IReadOnlyList<TrafficSource>> ReadAsync(Guid workspaceId, CancellationToken cancel)
    {
        var held = _held.GetOrAdd(workspaceId, _ => new Held());
        held.Asked = Interlocked.Increment(ref _asked);
        if (_held.Count > MostWorkspaces && _held.MinBy(h => h.Value.Asked) is var oldest)
        {
            _held.TryRemove(oldest.Key, out _);
        }

        // Whoever asks meanwhile reads the new ones too; both find the same.
        var known = held.Sources;
        var fresh = await SinceAsync(workspaceId, known.Count == 0 ? 0 : known[^1].Id, cancel);
        if (fresh.Count == 0)
        {
            return known;
        }

        List<TrafficSource> all = [.. known, .. fresh];
        held.Sources = all;
        return all;
    }

    /// <summary>The same, read through a convention and a plan; those read before are not read again while both stay as they are.</summary>
    public async Task<IReadOnlyList<ReadSource>> ReadAsync(
        Guid workspaceId,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var sources = await ReadAsync(workspaceId, cancel);
        var held = _held.GetOrAdd(workspaceId, _ => new Held());
        return held.ReadBy(sources, convention, plan).Sources;
    }

    /// <summary>The map of a report's sources; one that was made before is not made again while nothing changed.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="table">The sources of visits, or those of their visitors' first visits.</param>
    /// <param name="rows">What rows are made by.</param>
    /// <param name="where">What they are narrowed by.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="plan">The plan to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<RowMap> MapAsync(
        Guid workspaceId,
        RowTable table,
        IReadOnlyList<RowField> rows,
        IReadOnlyList<RowCondition> where,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var sources = await ReadAsync(workspaceId, cancel);
        return _held.GetOrAdd(workspaceId, _ => new Held()).ReadBy(sources, convention, plan).MapOf(table, rows, where);
    }

    private async Task<List<TrafficSource>> SinceAsync(Guid workspaceId, int id, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select id, tags, referrer_host, printed, site_id, link_id, typed from traffic_source
            where workspace_id = $1 and id > $2 order by id
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = id });
        var sources = new List<TrafficSource>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            sources.Add(
                new TrafficSource(
                    reader.GetInt32(0),
                    RawTags.Parse(reader.GetString(1)),
                    reader.GetString(2),
                    reader.GetBoolean(3),
                    reader.GetGuid(4),
                    reader.IsDBNull(5) ? null : reader.GetGuid(5),
                    reader.GetString(6)
                )
            );
        }

        return sources;
    }

    private sealed class Held
    {
        private ReadSources? _read;

        public long Asked { get; set; }

        public IReadOnlyList<TrafficSource> Sources { get; set; } = [];

        public ReadSources ReadBy(IReadOnlyList<TrafficSource> sources, Convention convention, PlanOfVisits plan)
        {
            var known = _read;
            if (known is null || known.Version != convention.Version)
            {
                return _read = new ReadSources(convention.Version, plan.Stamp, Read(sources));
            }

            if (known.Plan != plan.Stamp)
            {
                known = new ReadSources(known.Version, plan.Stamp, [.. known.Sources.Select(s => s.By(plan))]);
            }

            return _read =
                known.Sources.Count < sources.Count
                    ? new ReadSources(known.Version, known.Plan, [.. known.Sources, .. Read(sources.Skip(known.Sources.Count))])
                    : known;

            List<ReadSource> Read(IEnumerable<TrafficSource> unread) =>
                [.. unread.AsParallel().AsOrdered().Select(s => new ReadSource(s, convention, plan))];
        }
    }

    /// <summary>Sources as one convention and one plan read them, and the maps that were made of them.</summary>
    private sealed class ReadSources(int version, ulong plan, IReadOnlyList<ReadSource> sources)
    {
        private const int MostMaps = 16;

        private readonly ConcurrentQueue<(string Asked, RowMap Map)> _maps = new();

        public int Version => version;

        public ulong Plan => plan;

        public IReadOnlyList<ReadSource> Sources => sources;

        public RowMap MapOf(RowTable table, IReadOnlyList<RowField> rows, IReadOnlyList<RowCondition> where)
        {
            string asked = JsonSerializer.Serialize((object[])[table, rows, where.Where(c => c.Field.Table == table)]);
            var known = _maps.FirstOrDefault(m => m.Asked == asked);
            if (known.Map is not null)
            {
                return known.Map;
            }

            var map = new RowMap(table, rows, where);
            if (table == RowTable.FirstSource)
            {
                map.Add(0, _ => null); // visitors without an id
            }

            foreach (var source in sources)
            {
                map.Add(source.Source.Id, source.KeyOf);
            }

            _maps.Enqueue((asked, map));
            if (_maps.Count > MostMaps)
            {
                _maps.TryDequeue(out _);
            }

            return map;
        }
    }
}
