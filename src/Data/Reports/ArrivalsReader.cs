using System.Data;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Reads arrivals. The ways visits arrived are read through the convention here, over the distinct ones only; then the packed visits of the
/// range are gone through once, by all processors.
/// </summary>
public sealed class ArrivalsReader(NpgsqlDataSource database, VisitSegments segments, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    private readonly VisitScanner scanner = new(segments);
    private readonly CostReader costReader = new(database, segments, sources);
    private readonly OtherFigureReader otherFigures = new(database);
    private readonly CreditReader credits = new(segments, sources);

    /// <summary>Reads one breakdown.</summary>
    public async Task<Arrivals> ReadAsync(ArrivalsRequest request, Convention convention, CancellationToken cancel) =>
        (await CompareAsync(request, null, convention, cancel)).Now;

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

        // One transaction sees one state, so that rows, total, series and comparison agree whatever arrives meanwhile.
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        var now = await ReadAsync(connection, request, convention, plan, maps, cancel);
        if (span is not { } other)
        {
            return (await WithLinesAsync(connection, request, now, convention, cancel), null);
        }

        // Of what rows are made by, only days belong to one span alone.
        var earlierRequest = request with { From = other.From, To = other.To };
        if (maps.Exists(m => m.Table == RowTable.Day))
        {
            maps = await reading.ReadAsync(earlierRequest, convention, plan, cancel);
        }

        var before = await ReadAsync(connection, earlierRequest, convention, plan, maps, cancel);
        var earlier = before.Rows.ToDictionary(r => new RowKey(r.Keys), r => r.Figures);
        var rows = now
            .Rows.Select(r => r with { Before = earlier.Remove(new RowKey(r.Keys), out var figures) ? figures : Figures.Zero })
            .ToList();
        rows.AddRange(earlier.Select(e => new ReportRow(e.Key.Keys, Figures.Zero, e.Value)));
        now = now with { Rows = rows, Plan = ReferenceEquals(before.Plan, plan) ? now.Plan : now.Plan.With(before.Plan.Links) };
        return (await WithLinesAsync(connection, request, now, convention, cancel), before.Total);
    }

    /// <summary>The same with the visits of single rows, point by point.</summary>
    private async Task<Arrivals> WithLinesAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        Arrivals read,
        Convention convention,
        CancellationToken cancel
    )
    {
        if (
            request.Rows.Count == 0
            || request.Lines?.Invoke(read.Rows, read.Plan).Select(keys => new RowKey(keys)).ToHashSet() is not { Count: > 0 } wanted
        )
        {
            return read;
        }

        // Narrowed field by field to what the lines are of, so that few rows are told apart for every point.
        var narrowed = request with
        {
            Rows = [.. request.Rows, new RowField(request.Points)],
            Where =
            [
                .. request.Where,
                .. request.Rows.Select(
                    (field, place) => new RowCondition(field, RowTest.In, [.. wanted.Select(w => w.Keys[place]).Distinct()])
                ),
            ],
            WithVisitors = false,
            Named = [],
            Credit = null,
        };
        var maps = await new RowMapReader(database, sources).ReadAsync(narrowed, convention, read.Plan, cancel);
        using var scan = await scanner.ScanAsync(connection, narrowed, maps, cancel);
        var lines = wanted.ToDictionary(w => w, _ => (IReadOnlyDictionary<DateOnly, long>)new Dictionary<DateOnly, long>());
        foreach (var (groups, figures) in scan.Rows())
        {
            string?[] names = VisitScanner.NamesOf(narrowed, maps, groups);
            if (lines.TryGetValue(new RowKey(names[..^1]), out var line))
            {
                ((Dictionary<DateOnly, long>)line)[
                    DateOnly.ParseExact(names[^1]!, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)
                ] = figures.Visits;
            }
        }

        return read with
        {
            Lines = lines,
        };
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
        await using (var connection = await database.OpenConnectionAsync(cancel))
        await using (await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel))
        {
            await foreach (var (_, some) in segments.ReadAsync(connection, workspaceId, DateOnly.MinValue, DateOnly.MaxValue, cancel))
            {
                foreach (var (id, count) in some.IdsOf(RowTable.Source).Counts())
                {
                    visits[id] = visits.GetValueOrDefault(id) + count;
                }
            }
        }

        return [.. (await sources.ReadAsync(workspaceId, cancel)).Where(s => visits.ContainsKey(s.Id)).Select(s => (s, visits[s.Id]))];
    }

    private async Task<Arrivals> ReadAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        Convention convention,
        PlanOfVisits plan,
        List<RowMap> maps,
        CancellationToken cancel
    )
    {
        using var scan = await scanner.ScanAsync(connection, request, maps, cancel);
        var refunded = await RefundReader.ReadAsync(connection, request.WorkspaceId, request.From, request.To, cancel);
        var creditOfRefunds = await credits.GiveAsync(connection, request, scan, refunded, cancel);
        var rows = scan.Rows().Select(r => new ReportRow(VisitScanner.NamesOf(request, maps, r.Groups), r.Figures)).ToList();
        var days = scan
            .Days.Where(d => d.Value.Visits > 0)
            .GroupBy(d => Calendar.FirstDayOf(request.Points, d.Key))
            .Select(g => new ArrivalsDay(g.Key, g.Sum(d => d.Value.Visits), g.Sum(d => d.Value.Converting)));
        bool hasClicks = request.WithClicks && ClickRows.CanTell(request.Rows, request.Where);
        if (hasClicks)
        {
            var (clicks, links) = await ClickReader.ReadAsync(
                connection,
                new ClickRange(request.WorkspaceId, request.From, request.To, request.IsByDay),
                cancel
            );
            plan = clicks.Count == 0 ? plan : plan.With(links);
            rows = clicks.Count > 0 ? await WithClicksAsync(connection, request, rows, clicks, convention, plan, cancel) : rows;
        }

        var costs = LinkCosts.None(plan);
        if (request.WithCosts && AmountRows.CanTell(request.Where))
        {
            costs = await costReader.ReadAsync(connection, CostRequest.Of(request), convention, plan, cancel);
            plan = costs.Plan;
            rows = With(rows, AmountRows.Of(costs.Costs, request.Rows, request.Where, convention, plan), (figures, cost) =>
                figures with
                {
                    Cost = (figures.Cost ?? 0) + cost,
                }
            );
        }

        if (request.Others.Count > 0 && AmountRows.CanTell(request.Where))
        {
            var others = await otherFigures.ReadAsync(connection, CostRequest.Of(request), request.Others, cancel);
            plan = plan.With(others.Links.Called.Values);
            foreach (var (kind, amounts) in others.Amounts)
            {
                var found = new FoundAmounts();
                found.Add(amounts, amounts.Rests(), others.Links, CostRequest.Of(request));
                plan = plan.With(found.Called.Values);
                rows = With(rows, AmountRows.Of(found.All, request.Rows, request.Where, convention, plan), (figures, count) =>
                    figures with
                    {
                        Others = figures.Others.With(kind, count),
                    }
                );
            }
        }

        var (refunds, refundsElsewhere) = RefundRows.Of(
            refunded,
            maps,
            request.Rows.Count,
            request.From,
            request.To,
            request.Currency,
            creditOfRefunds
        );
        rows = With(rows, refunds, (figures, money) => figures with { Refunds = figures.Refunds + money });
        return new Arrivals(
            request.Rows.Count == 0 ? [] : rows,
            rows.Aggregate(Figures.Zero, (sum, row) => sum.With(row.Figures)) with
            {
                Visitors = scan.Visitors,
            },
            [.. days],
            scan.Elsewhere,
            await LostAsync(connection, request, cancel),
            await ValueBook.FullAsync(connection, request.WorkspaceId, request.From, request.To, cancel),
            await FreshnessAsync(connection, request.WorkspaceId, cancel),
            plan
        )
        {
            HasClicks = hasClicks,
            RefundsElsewhere = refundsElsewhere,
            CostElsewhere = AmountRows.Elsewhere(costs.Costs, request.Where, convention, plan),
            Occurring = scan.Occurring,
        };
    }

    /// <summary>The rows with the clicks on their links, rows that only have clicks too.</summary>
    private async Task<List<ReportRow>> WithClicksAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        List<ReportRow> rows,
        IReadOnlyList<CountedClicks> clicks,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var clicked = ClickRows.Of(clicks, request.Rows, request.Where, convention, plan);

        // Only visits by a link with a short link could have begun with a click; the others say nothing of how many clicks arrive.
        var byLink = request with { WithVisitors = false, Named = [], Credit = null };
        var maps = await new RowMapReader(database, sources).ReadAsync(byLink, convention, plan, cancel);
        var shortened = await ClickReader.ShortenedAsync(connection, request.WorkspaceId, cancel);
        var ofSources = new RowMap(RowTable.Source, byLink.Rows, byLink.Where);
        foreach (var source in await sources.ReadAsync(request.WorkspaceId, convention, plan, cancel))
        {
            if (source.Source.LinkId is { } link && shortened.Contains(link))
            {
                ofSources.Add(source.Source.Id, source.KeyOf);
            }
        }

        maps = [ofSources, .. maps.Where(m => m.Table != RowTable.Source)];
        using var scan = await scanner.ScanAsync(connection, byLink, maps, cancel);
        var visits = scan.Rows().ToDictionary(r => new RowKey(VisitScanner.NamesOf(byLink, maps, r.Groups)), r => r.Figures.Visits);
        var all = rows.ConvertAll(r =>
        {
            var key = new RowKey(r.Keys);
            var (count, scans) = clicked.Remove(key, out var its) ? its : default;
            return r with { Figures = r.Figures with { Clicks = count, Scans = scans, VisitsByLink = visits.GetValueOrDefault(key) } };
        });
        all.AddRange(clicked.Select(c => new ReportRow(c.Key.Keys, Figures.Zero with { Clicks = c.Value.Clicks, Scans = c.Value.Scans })));
        return all;
    }

    /// <summary>The rows with money added, rows that have nothing else too.</summary>
    private static List<ReportRow> With(List<ReportRow> rows, Dictionary<RowKey, decimal> money, Func<Figures, decimal, Figures> add)
    {
        if (money.Count == 0)
        {
            return rows;
        }

        var all = rows.ConvertAll(r => money.Remove(new RowKey(r.Keys), out decimal its) ? r with { Figures = add(r.Figures, its) } : r);
        all.AddRange(money.Select(m => new ReportRow(m.Key.Keys, add(Figures.Zero, m.Value))));
        return all;
    }

    private static async Task<long> LostAsync(NpgsqlConnection connection, ArrivalsRequest request, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select coalesce(sum(lost), 0)::bigint from event_loss where workspace_id = $1 and day between $2 and $3",
            connection
        )
        {
            Parameters =
            {
                new() { Value = request.WorkspaceId },
                new() { Value = request.From },
                new() { Value = request.To },
            },
        };
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }

    private static async Task<Freshness> FreshnessAsync(NpgsqlConnection connection, Guid workspaceId, CancellationToken cancel)
    {
        // The newest hour is found by an index, and its visits are few.
        await using var command = new NpgsqlCommand(
            """
            select
                (select max(v.ended_at) from visit v
                 join (select day, hour from visit where workspace_id = $1 order by day desc, hour desc limit 1) h on h.day = v.day and h.hour = v.hour
                 where v.workspace_id = $1),
                case when exists (select from new_key_months where workspace_id = $1) or exists (select from conversion_months where workspace_id = $1) then 1000
                    else (select count(*) from (select from visit_due where workspace_id = $1 limit 1000) d) end
            """,
            connection
        )
        {
            Parameters = { new() { Value = workspaceId } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return new Freshness(reader.IsDBNull(0) ? null : reader.GetFieldValue<DateTimeOffset>(0), reader.GetInt64(1));
    }
}
