using System.Data;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Reads arrivals. The ways visits arrived are read through the convention here, over the distinct ones only; the sums are the database's,
/// from the summaries where rows are made by sources and days alone, else from the visits.
/// </summary>
public sealed class ArrivalsReader(NpgsqlDataSource database, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    /// <summary>Reads one breakdown.</summary>
    public async Task<Arrivals> ReadAsync(ArrivalsRequest request, Convention convention, CancellationToken cancel)
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        return await ReadAsync(
            request,
            plan,
            await new RowMapReader(database, sources).ReadAsync(request, convention, plan, cancel),
            cancel
        );
    }

    private async Task<Arrivals> ReadAsync(ArrivalsRequest request, PlanOfVisits plan, List<RowMap> maps, CancellationToken cancel)
    {
        var sql = new ArrivalsSql(request, maps);
        var rows = new Dictionary<GroupKey, Figures>();
        var elsewhere = new SortedDictionary<string, decimal>(StringComparer.Ordinal);
        var days = new List<ArrivalsDay>();

        // One transaction sees one state, so that rows, total and series agree whatever arrives meanwhile.
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        await using var batch = new NpgsqlBatch(connection, transaction);
        foreach (string setting in ArrivalsSql.Settings.Split("; "))
        {
            batch.BatchCommands.Add(new NpgsqlBatchCommand(setting));
        }

        string[] queries = request.WithVisitors
            ? [sql.Visits, sql.Conversions, sql.Series, sql.Visitors, sql.AllVisitors]
            : [sql.Visits, sql.Conversions, sql.Series];
        foreach (string text in queries)
        {
            var command = new NpgsqlBatchCommand(text);
            sql.AddParameters(command);
            batch.BatchCommands.Add(command);
        }

        batch.BatchCommands.Add(
            new NpgsqlBatchCommand(
                "select coalesce(sum(lost), 0)::bigint from event_loss where workspace_id = $1 and day between $2 and $3"
            )
            {
                Parameters =
                {
                    new() { Value = request.WorkspaceId },
                    new() { Value = request.From },
                    new() { Value = request.To },
                },
            }
        );

        await using var reader = await batch.ExecuteReaderAsync(cancel);
        int at = maps.Count;
        await EachAsync(f =>
            f with
            {
                Visits = reader.GetInt64(at),
                PageViews = reader.GetInt64(at + 1),
                Events = reader.GetInt64(at + 2),
                Seconds = reader.GetInt64(at + 3),
                Bounces = reader.GetInt64(at + 4),
                ConvertingVisits = reader.GetInt64(at + 5),
                VisitsWithId = reader.GetInt64(at + 6),
            }
        );
        await reader.NextResultAsync(cancel);
        await EachAsync(f =>
        {
            string currency = reader.GetString(at);
            bool own = currency.Length == 0 || currency == request.Currency;
            if (!own)
            {
                elsewhere[currency] = elsewhere.GetValueOrDefault(currency) + reader.GetDecimal(at + 2);
            }

            return f with
            {
                Conversions = f.Conversions + reader.GetInt64(at + 1),
                VerifiedConversions = f.VerifiedConversions + reader.GetInt64(at + 3),
                Revenue = f.Revenue + (own ? reader.GetDecimal(at + 2) : 0),
            };
        });
        await reader.NextResultAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            days.Add(new ArrivalsDay(reader.GetFieldValue<DateOnly>(0), reader.GetInt64(1), reader.GetInt64(2)));
        }

        var total = rows.Values.Aggregate(Figures.Zero, (sum, row) => sum.With(row));
        await reader.NextResultAsync(cancel);
        if (request.WithVisitors)
        {
            await EachAsync(f => f with { Visitors = reader.GetInt64(at) });
            await reader.NextResultAsync(cancel);
            await reader.ReadAsync(cancel);
            total = total with { Visitors = reader.GetInt64(0) };
            await reader.NextResultAsync(cancel);
        }

        await reader.ReadAsync(cancel);
        long lost = reader.GetInt64(0);

        return new Arrivals(
            request.Rows.Count == 0
                ? []
                : [.. rows.Where(r => r.Value.Visits > 0).Select(r => new ReportRow(sql.NamesOf(r.Key.Groups), r.Value))],
            total,
            days,
            elsewhere,
            lost,
            plan
        );

        // A row's groups come first.
        async Task EachAsync(Func<Figures, Figures> take)
        {
            while (await reader.ReadAsync(cancel))
            {
                // What came since the maps were read is in no group yet; it is there the next time.
                int[] groups = new int[at];
                for (int i = 0; i < groups.Length; i++)
                {
                    groups[i] = reader.IsDBNull(i) ? 0 : reader.GetInt32(i);
                }

                if (groups.Contains(0))
                {
                    continue;
                }

                var key = new GroupKey(groups);
                rows[key] = take(rows.GetValueOrDefault(key, Figures.Zero));
            }
        }
    }

    /// <summary>The same with another span beside it: each row's figures there, also of rows that are there alone.</summary>
    public async Task<(Arrivals Now, Figures? Before)> CompareAsync(
        ArrivalsRequest request,
        (DateOnly From, DateOnly To)? span,
        Convention convention,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var reading = new RowMapReader(database, sources);
        var maps = await reading.ReadAsync(request, convention, plan, cancel);
        var now = await ReadAsync(request, plan, maps, cancel);
        if (span is not { } other)
        {
            return (now, null);
        }

        // Of what rows are made by, only days belong to one span alone.
        var earlierRequest = request with { From = other.From, To = other.To };
        if (maps.Exists(m => m.Table == RowTable.Day))
        {
            maps = await reading.ReadAsync(earlierRequest, convention, plan, cancel);
        }

        var before = await ReadAsync(earlierRequest, plan, maps, cancel);
        var earlier = before.Rows.ToDictionary(r => new RowKey(r.Keys), r => r.Figures);
        var rows = now
            .Rows.Select(r => r with { Before = earlier.Remove(new RowKey(r.Keys), out var figures) ? figures : Figures.Zero })
            .ToList();
        rows.AddRange(earlier.Select(e => new ReportRow(e.Key.Keys, Figures.Zero, e.Value)));
        return (now with { Rows = rows }, before.Total);
    }

    /// <summary>The links the visits of a row came by, those with most visits first; none for visits whose link isn't known.</summary>
    /// <param name="request">The range and the row's conditions; its rows are not looked at.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="most">How many links at most.</param>
    /// <param name="cancel">Gives up reading.</param>
    public async Task<IReadOnlyList<LinkVisits>> LinksAsync(
        ArrivalsRequest request,
        Convention convention,
        int most,
        CancellationToken cancel
    )
    {
        var read = await ReadAsync(request with { Rows = [new RowField(RowKind.Link)], WithVisitors = false }, convention, cancel);
        return
        [
            .. read
                .Rows.Where(r => r.Keys[0] is not null)
                .Select(r => new LinkVisits(Guid.Parse(r.Keys[0]!), r.Figures.Visits))
                .OrderByDescending(l => l.Visits)
                .ThenBy(l => l.LinkId)
                .Take(most),
        ];
    }

    /// <summary>Every way in which visits ever arrived, with how many did.</summary>
    public async Task<IReadOnlyList<(TrafficSource Way, long Visits)>> AllWaysAsync(Guid workspaceId, CancellationToken cancel)
    {
        var visits = new Dictionary<int, long>();
        await using (
            var command = database.CreateCommand(
                "select source_id, sum(visits)::bigint from source_month where workspace_id = $1 group by source_id"
            )
        )
        {
            command.Parameters.Add(new() { Value = workspaceId });
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                visits[reader.GetInt32(0)] = reader.GetInt64(1);
            }
        }

        return [.. (await sources.ReadAsync(workspaceId, cancel)).Where(s => visits.ContainsKey(s.Id)).Select(s => (s, visits[s.Id]))];
    }

    /// <summary>The keys of a row, compared one by one.</summary>
    private sealed record RowKey(IReadOnlyList<string?> Keys)
    {
        public bool Equals(RowKey? other) => other is not null && Keys.SequenceEqual(other.Keys);

        public override int GetHashCode() => Keys.Aggregate(17, HashCode.Combine);
    }

    /// <summary>The groups of a row, compared one by one.</summary>
    private readonly record struct GroupKey(int[] Groups)
    {
        public bool Equals(GroupKey other) => Groups.AsSpan().SequenceEqual(other.Groups);

        public override int GetHashCode()
        {
            var hash = new HashCode();
            foreach (int group in Groups)
            {
                hash.Add(group);
            }

            return hash.ToHashCode();
        }
    }
}
