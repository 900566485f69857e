using System.Collections.Concurrent;
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
        if (!_held.TryGetValue(workspaceId, out var held))
        {
            return [.. sources.Select(s => new ReadSource(s, convention, plan))];
        }

        var known = held.Read is { } read && read.Version == convention.Version && read.Plan == plan.Stamp ? read.Sources : [];
        if (known.Count < sources.Count)
        {
            known = [.. known, .. sources.Skip(known.Count).Select(s => new ReadSource(s, convention, plan))];
            held.Read = new ReadBy(convention.Version, plan.Stamp, known);
        }

        return known;
    }

    private async Task<List<TrafficSource>> SinceAsync(Guid workspaceId, int id, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select id, tags, referrer_host, printed, site_id, link_id from traffic_source
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
                    reader.IsDBNull(5) ? null : reader.GetGuid(5)
                )
            );
        }

        return sources;
    }

    private sealed record ReadBy(int Version, ulong Plan, IReadOnlyList<ReadSource> Sources);

    private sealed class Held
    {
        public long Asked { get; set; }

        public IReadOnlyList<TrafficSource> Sources { get; set; } = [];

        public ReadBy? Read { get; set; }
    }
}
