using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Knows the first visit of each visitor with an id and its source, whatever is worked out again and however late it comes. Used within the transaction
/// that replaces visits, after the old ones are gone and before the new ones are written.
/// </summary>
internal sealed class FirstVisits(NpgsqlConnection connection, VisitKeys keys)
{
    private readonly HashSet<Guid> _new = [];
    private readonly Dictionary<(Guid WorkspaceId, Guid Visitor), int> _sources = [];

    /// <summary>True for a visit that is its visitor's first, once <see cref="SettleAsync"/> was called.</summary>
    public bool IsNew(Visit visit) => _new.Contains(visit.Id);

    /// <summary>The source of its visitor's first visit, likewise; null where the visitor has no id.</summary>
    public int? SourceOf(Visit visit) =>
        visit.HasId && _sources.TryGetValue((visit.WorkspaceId, visit.Visitor), out int source) ? source : null;

    /// <summary>
    /// Finds the first visits of those visitors whose visits are replaced. Visits that stay and are no longer the first, or are now, are
    /// changed, and their hours added to the table <c>changed_hour</c>.
    /// </summary>
    /// <param name="days">The days whose visits are gone.</param>
    /// <param name="visits">The visits to come.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task SettleAsync(IReadOnlyList<VisitorDay> days, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        var coming = visits
            .Where(v => v.HasId)
            .GroupBy(v => (v.WorkspaceId, v.Visitor))
            .ToDictionary(g => g.Key, g => g.OrderBy(v => v.StartedAt).ThenBy(v => v.Id).First());
        var known = await KnownAsync(days, cancel);
        var gone = days.Select(d => (d.WorkspaceId, d.Visitor, d.Day)).ToHashSet();

        // Where the first visit is gone and nothing as early comes in its place, one that stays may be the first.
        var lost = known
            .Where(k => gone.Contains((k.Key.WorkspaceId, k.Key.Visitor, k.Value.Day)))
            .Where(k => !coming.TryGetValue(k.Key, out var visit) || IsBefore(k.Value, visit))
            .Select(k => k.Key)
            .ToHashSet();
        var staying = await StayingAsync(lost, cancel);

        var changed = new List<First>();
        var moved = new List<First>();
        foreach (var key in known.Keys.Union(coming.Keys))
        {
            bool wasThere = known.TryGetValue(key, out var before);
            bool isGone = wasThere && gone.Contains((key.WorkspaceId, key.Visitor, before.Day));
            var first =
                !isGone && wasThere ? before
                : staying.TryGetValue(key, out var stays) ? stays
                : (First?)null;
            if (coming.TryGetValue(key, out var visit) && (first is not { } earlier || !IsBefore(earlier, visit)))
            {
                _new.Add(visit.Id);
                first = new First(key.WorkspaceId, key.Visitor, visit.Id, visit.StartedAt, visit.Day, keys.SourceOf(visit));
            }

            if (first is { } its)
            {
                _sources[key] = its.SourceId;
                if (wasThere && its.SourceId != before.SourceId)
                {
                    moved.Add(its);
                }
            }

            if (first is { } found && (!wasThere || found != before))
            {
                changed.Add(found);
                if (wasThere && !isGone && found.VisitId != before.VisitId)
                {
                    await MarkAsync(before, isNew: false, cancel);
                }

                if (!_new.Contains(found.VisitId))
                {
                    await MarkAsync(found, isNew: true, cancel);
                }
            }
            else if (first is null)
            {
                await ForgetAsync(key.WorkspaceId, key.Visitor, cancel);
            }
        }

        await KeepAsync(changed, cancel);
        await MoveAsync(moved, cancel);
    }

    private static bool IsBefore(First first, Visit visit) =>
        first.StartedAt < visit.StartedAt || (first.StartedAt == visit.StartedAt && first.VisitId.CompareTo(visit.Id) < 0);

    private async Task<Dictionary<(Guid WorkspaceId, Guid Visitor), First>> KnownAsync(
        IReadOnlyList<VisitorDay> days,
        CancellationToken cancel
    )
    {
        var visitors = days.Select(d => (d.WorkspaceId, d.Visitor)).Distinct().ToList();
        return await ReadAsync(
            """
            select f.workspace_id, f.visitor, f.visit_id, f.started_at, f.day, f.source_id from visitor_first f
            join unnest($1, $2) as g(workspace_id, visitor) on g.workspace_id = f.workspace_id and g.visitor = f.visitor
            """,
            visitors,
            cancel
        );
    }

    private Task<Dictionary<(Guid WorkspaceId, Guid Visitor), First>> StayingAsync(
        IReadOnlyCollection<(Guid WorkspaceId, Guid Visitor)> visitors,
        CancellationToken cancel
    ) =>
        ReadAsync(
            """
            select distinct on (v.workspace_id, v.visitor) v.workspace_id, v.visitor, v.id, v.started_at, v.day, v.source_id from visit v
            join unnest($1, $2) as g(workspace_id, visitor) on g.workspace_id = v.workspace_id and g.visitor = v.visitor
            where v.has_id order by v.workspace_id, v.visitor, v.started_at, v.id
            """,
            visitors,
            cancel
        );

    private async Task<Dictionary<(Guid WorkspaceId, Guid Visitor), First>> ReadAsync(
        string sql,
        IReadOnlyCollection<(Guid WorkspaceId, Guid Visitor)> visitors,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<(Guid, Guid), First>();
        if (visitors.Count == 0)
        {
            return found;
        }

        await using var command = new NpgsqlCommand(sql, connection)
        {
            Parameters =
            {
                new() { Value = visitors.Select(v => v.WorkspaceId).ToArray() },
                new() { Value = visitors.Select(v => v.Visitor).ToArray() },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var first = new First(
                reader.GetGuid(0),
                reader.GetGuid(1),
                reader.GetGuid(2),
                reader.GetFieldValue<DateTimeOffset>(3),
                reader.GetFieldValue<DateOnly>(4),
                reader.GetInt32(5)
            );
            found[(first.WorkspaceId, first.Visitor)] = first;
        }

        return found;
    }

    private Task MarkAsync(First first, bool isNew, CancellationToken cancel) =>
        RunAsync(
            """
            with changed as (
                update visit set is_new = $3 where started_at = $1 and id = $2 and is_new <> $3 returning workspace_id, day, hour)
            insert into changed_hour select workspace_id, day, hour from changed
            """,
            cancel,
            first.StartedAt,
            first.VisitId,
            isNew
        );

    private Task ForgetAsync(Guid workspaceId, Guid visitor, CancellationToken cancel) =>
        RunAsync("delete from visitor_first where workspace_id = $1 and visitor = $2", cancel, workspaceId, visitor);

    private Task KeepAsync(List<First> firsts, CancellationToken cancel) =>
        firsts.Count == 0
            ? Task.CompletedTask
            : RunAsync(
                """
                insert into visitor_first (workspace_id, visitor, visit_id, started_at, day, source_id)
                select * from unnest($1, $2, $3, $4, $5, $6)
                on conflict (workspace_id, visitor) do update set
                    visit_id = excluded.visit_id, started_at = excluded.started_at, day = excluded.day, source_id = excluded.source_id
                """,
                cancel,
                firsts.Select(f => f.WorkspaceId).ToArray(),
                firsts.Select(f => f.Visitor).ToArray(),
                firsts.Select(f => f.VisitId).ToArray(),
                firsts.Select(f => f.StartedAt).ToArray(),
                firsts.Select(f => f.Day).ToArray(),
                firsts.Select(f => f.SourceId).ToArray()
            );

    /// <summary>Tells all visits that stay of visitors who came from elsewhere first than was known.</summary>
    private Task MoveAsync(List<First> firsts, CancellationToken cancel) =>
        firsts.Count == 0
            ? Task.CompletedTask
            : RunAsync(
                """
                with changed as (
                    update visit v set first_source_id = f.source_id
                    from unnest($1, $2, $3) as f(workspace_id, visitor, source_id)
                    where v.workspace_id = f.workspace_id and v.visitor = f.visitor and v.has_id
                        and v.first_source_id is distinct from f.source_id
                    returning v.workspace_id, v.day, v.hour)
                insert into changed_hour select distinct workspace_id, day, hour from changed
                """,
                cancel,
                firsts.Select(f => f.WorkspaceId).ToArray(),
                firsts.Select(f => f.Visitor).ToArray(),
                firsts.Select(f => f.SourceId).ToArray()
            );

    private async Task RunAsync(string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }

    private readonly record struct First(
        Guid WorkspaceId,
        Guid Visitor,
        Guid VisitId,
        DateTimeOffset StartedAt,
        DateOnly Day,
        int SourceId
    );
}
