using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Works visits and conversions out again from raw events, for the visitors and days that are due. One process at a
/// time does it; all of it is one transaction, so it is done or still due.
/// </summary>
public sealed class VisitAggregator(NpgsqlDataSource database)
{
    private const int MostMarks = 2_000;
    private const int GroupsAtOnce = 200;

    /// <summary>About as many events are gone through in one step, so that it takes well under a second.</summary>
    private const int StepEvents = 10_000;

    private const int FirstMargin = 1;

    /// <summary>Works out one step, which is bounded by the events gone through; only one visitor's one day is never cut.</summary>
    /// <returns>How many visitor days were due and are done; 0 when there was nothing to do.</returns>
    public async Task<int> WorkOutAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (!await WorkLock.TryTakeAsync(connection, WorkLock.Visits, cancel))
        {
            return 0;
        }

        var due = await DueAsync(connection, cancel);
        if (due.Count == 0)
        {
            return 0;
        }

        var rules = await VisitRulesReader.ReadAsync(connection, cancel);

        // The raw events of some days are deleted; what was worked out from them stays.
        var over = due.Where(d => d.Key.Day < rules[d.Key.WorkspaceId].RawFrom).ToList();
        var waiting = await GroupAsync(connection, [.. due.Keys.Except(over.Select(d => d.Key))], cancel);
        var done = new List<VisitGroup>();
        var visits = new List<Visit>();
        var days = new List<VisitorDay>();
        var counting = new Dictionary<Guid, OrderFigures?>();
        for (int read = 0; done.Count < waiting.Count && read < StepEvents; )
        {
            var groups = waiting.GetRange(done.Count, Math.Min(GroupsAtOnce, waiting.Count - done.Count));
            done.AddRange(groups);
            for (int margin = FirstMargin; groups.Count > 0; margin *= 4)
            {
                await LoadAsync(connection, groups, margin, cancel);
                read += groups.Sum(g => g.Events.Count);
                foreach (var (id, verified) in await PageEventReader.CountingAsync(connection, groups.SelectMany(g => g.Events), cancel))
                {
                    counting[id] = verified;
                }

                var trials = await TrialTraffic.HitsAsync(connection, [.. groups.SelectMany(g => g.Events)], cancel);
                var known = await SealedCodeReader.WithCodesAsync(connection, rules, groups.SelectMany(g => g.Events), cancel);
                if (trials.Count > 0)
                {
                    // An opening serves the visitor who came first after it, whoever else is behind the same address.
                    groups = [.. groups.OrderBy(g => TrialHits.FirstViewAfter(g.Events, trials))];
                }

                groups = [.. groups.Where(group => !TrySort(group, known[group.WorkspaceId], margin, counting, trials, visits, days))];
            }
        }

        long[] marks =
        [
            .. done.SelectMany(g => g.Visitors.SelectMany(v => g.Due.Select(day => new VisitorDay(g.WorkspaceId, v, day))))
                .SelectMany(d => due.GetValueOrDefault(d) ?? []),
        ];
        await ForgetAsync(connection, [.. marks, .. over.SelectMany(d => d.Value)], cancel);
        days.RemoveAll(d => d.Day < rules[d.WorkspaceId].RawFrom);
        visits.RemoveAll(v => v.Day < rules[v.WorkspaceId].RawFrom);
        if (days.Count > 0)
        {
            await TrialTraffic.ReplaceVisitsAsync(connection, days, [.. visits.Where(v => v.Trial is not null)], cancel);
        }

        visits.RemoveAll(v => v.Trial is not null);
        visits = await VisitLinkReader.FindAsync(connection, rules, visits, cancel);
        await new VisitWriter(connection).ReplaceAsync(days, visits, cancel);
        if (days.Count > 0)
        {
            await OrderMarks.AddAsync(connection, [.. done.SelectMany(g => g.Events)], counting, cancel);
        }

        await TrafficNotices.TellChangedAsync(connection, days.Select(d => d.WorkspaceId), cancel);
        await transaction.CommitAsync(cancel);
        return done.Count + over.Count;
    }

    private static bool TrySort(
        VisitGroup group,
        VisitRules rules,
        int margin,
        Dictionary<Guid, OrderFigures?> counting,
        IReadOnlyList<TrialHit> trials,
        List<Visit> visits,
        List<VisitorDay> days
    )
    {
        if (group.Stretches(rules, margin) is not { } stretches)
        {
            return false;
        }

        foreach (var (from, to) in stretches)
        {
            var events = group.Events.Where(e => rules.DayOf(e.At) is var day && day >= from && day <= to);
            var free = trials.Where(t => !visits.Exists(v => v.Trial?.Id == t.Id));
            visits.AddRange(VisitSplitter.Sort(events, rules, e => OrderOnce.Counted(e, counting), new TrialHits(free)));
            for (var day = from; day <= to; day = day.AddDays(1))
            {
                days.AddRange(group.Visitors.Select(v => new VisitorDay(group.WorkspaceId, v, day)));
            }
        }

        return true;
    }

    /// <summary>The oldest marks, by what is due. Those that may wait come after all others.</summary>
    private static async Task<Dictionary<VisitorDay, List<long>>> DueAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            (select id, workspace_id, visitor, day from visit_due where not later order by id limit $1)
            union all
            (select id, workspace_id, visitor, day from visit_due where later order by id limit $1)
            limit $1
            """,
            connection
        );
        command.Parameters.Add(new() { Value = MostMarks });
        var due = new Dictionary<VisitorDay, List<long>>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var day = new VisitorDay(reader.GetGuid(1), reader.GetGuid(2), reader.GetFieldValue<DateOnly>(3));
            if (!due.TryGetValue(day, out var marks))
            {
                due[day] = marks = [];
            }

            marks.Add(reader.GetInt64(0));
        }

        return due;
    }

    private static async Task ForgetAsync(NpgsqlConnection connection, long[] marks, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("delete from visit_due where id = any($1)", connection);
        command.Parameters.Add(new() { Value = marks });
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Gathers the hashes of one person: those linked over the midnights around the days due.</summary>
    private static async Task<List<VisitGroup>> GroupAsync(NpgsqlConnection connection, List<VisitorDay> due, CancellationToken cancel)
    {
        var groups = new Dictionary<(Guid, Guid), VisitGroup>();
        foreach (var (workspace, visitor, day) in due)
        {
            if (!groups.TryGetValue((workspace, visitor), out var group))
            {
                groups[(workspace, visitor)] = group = new VisitGroup(workspace);
                group.Visitors.Add(visitor);
            }

            group.Due.Add(day);
        }

        foreach (var (workspace, one, other) in await LinksAsync(connection, due, cancel))
        {
            var first = groups.GetValueOrDefault((workspace, one));
            var second = groups.GetValueOrDefault((workspace, other));
            var joined = first ?? second ?? new VisitGroup(workspace);
            if (first is not null && second is not null && first != second)
            {
                joined.Visitors.UnionWith(second.Visitors);
                joined.Due.UnionWith(second.Due);
            }

            joined.Visitors.UnionWith([one, other]);
            foreach (var visitor in joined.Visitors)
            {
                groups[(workspace, visitor)] = joined;
            }
        }

        return [.. groups.Values.Distinct()];
    }

    private static async Task<List<(Guid, Guid, Guid)>> LinksAsync(
        NpgsqlConnection connection,
        List<VisitorDay> due,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            with recursive known as (
                select distinct * from unnest($1, $2) as d(workspace_id, visitor)
                union
                select k.workspace_id, n.visitor
                from known k
                cross join lateral (
                    select l.earlier from visitor_link l where l.workspace_id = k.workspace_id and l.visitor = k.visitor
                    union all
                    select l.visitor from visitor_link l where l.workspace_id = k.workspace_id and l.earlier = k.visitor
                ) n(visitor)
            )
            select distinct l.workspace_id, l.visitor, l.earlier
            from visitor_link l
            join known k on k.workspace_id = l.workspace_id and k.visitor = l.visitor
            """,
            connection
        );
        command.Parameters.Add(new() { Value = due.Select(d => d.WorkspaceId).ToArray() });
        command.Parameters.Add(new() { Value = due.Select(d => d.Visitor).ToArray() });
        var links = new List<(Guid, Guid, Guid)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            links.Add((reader.GetGuid(0), reader.GetGuid(1), reader.GetGuid(2)));
        }

        return links;
    }

    private static async Task LoadAsync(NpgsqlConnection connection, List<VisitGroup> groups, int margin, CancellationToken cancel)
    {
        var byVisitor = new Dictionary<(Guid, Guid), VisitGroup>();
        foreach (var group in groups)
        {
            group.Events.Clear();
            foreach (var visitor in group.Visitors)
            {
                byVisitor[(group.WorkspaceId, visitor)] = group;
            }
        }

        var stretches = groups
            .SelectMany(g => g.Visitors.Select(v => (g.WorkspaceId, v, g.Due.Min().AddDays(-margin), g.Due.Max().AddDays(margin))))
            .ToList();
        foreach (var item in await PageEventReader.ReadAsync(connection, stretches, cancel))
        {
            byVisitor[(item.WorkspaceId, item.Visitor)].Events.Add(item);
        }
    }
}
