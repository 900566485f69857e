using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>A stretch of one visitor's hits on one short link that is to be sorted again.</summary>
/// <param name="From">Its first moment.</param>
/// <param name="Until">The first moment after it.</param>
internal sealed record DueStretch(Guid WorkspaceId, Guid Visitor, Guid ShortLinkId, DateTimeOffset From, DateTimeOffset Until)
{
    /// <summary>The marks it was made of.</summary>
    public required IReadOnlyList<long> Marks { get; init; }

    /// <summary>Hits the marks speak of.</summary>
    public required int Hits { get; init; }
}

/// <summary>Reads the marks of hits that are due, and the hits they speak of, in bounded steps.</summary>
internal sealed class DueHits(NpgsqlConnection connection)
{
    /// <summary>About as many hits are sorted in one step, so that it takes well under a second.</summary>
    public const int StepHits = 5_000;

    private const int MostMarks = 5_000;
    private const int StretchesAtOnce = 500;

    /// <summary>PostgreSQL keeps moments to the microsecond.</summary>
    private static readonly TimeSpan Tick = TimeSpan.FromMicroseconds(1);

    /// <summary>The oldest marks as stretches: about one step's worth, and at least one.</summary>
    public async Task<IReadOnlyList<DueStretch>> StretchesAsync(CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select id, workspace_id, visitor, short_link_id, from_at, to_at, hits from hit_due order by id limit $1",
            connection
        );
        command.Parameters.Add(new() { Value = MostMarks });
        var marks = new List<DueStretch>();
        int hits = 0;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (hits < StepHits && await reader.ReadAsync(cancel))
        {
            marks.Add(
                new DueStretch(
                    reader.GetGuid(1),
                    reader.GetGuid(2),
                    reader.GetGuid(3),
                    reader.GetFieldValue<DateTimeOffset>(4),
                    reader.GetFieldValue<DateTimeOffset>(5) + HitClassifier.DoubleTapWithin + Tick
                )
                {
                    Marks = [reader.GetInt64(0)],
                    Hits = reader.GetInt32(6),
                }
            );
            hits += marks[^1].Hits;
        }

        return [.. marks.GroupBy(m => (m.WorkspaceId, m.Visitor, m.ShortLinkId)).SelectMany(Merged)];
    }

    /// <summary>
    /// The marks of one visitor and link as stretches that do not touch. What lies between two of them is not due: hits that keep coming at
    /// two moments far apart would have all between them sorted again each time, more and more of it.
    /// </summary>
    private static IEnumerable<DueStretch> Merged(IEnumerable<DueStretch> marks)
    {
        DueStretch? open = null;
        foreach (var mark in marks.OrderBy(m => m.From))
        {
            if (open is not null && mark.From > open.Until)
            {
                yield return open;
                open = null;
            }

            open = open is null ? mark : Joined(open, mark);
        }

        if (open is not null)
        {
            yield return open;
        }
    }

    /// <summary>
    /// Sorts the hits of as many stretches as a step may take. A stretch with too many hits is cut, which is possible
    /// anywhere: whether a hit is a double tap depends on the person's hit before it alone.
    /// </summary>
    /// <returns>What was sorted, each stretch as far as it was; those left out are still due.</returns>
    public async Task<(List<(RawHit Hit, HitKind Kind)> Sorted, List<DueStretch> Done, List<DueStretch> Left)> SortAsync(
        IReadOnlyList<DueStretch> stretches,
        CancellationToken cancel
    )
    {
        var sorted = new List<(RawHit, HitKind)>();
        var done = new List<DueStretch>();
        var rest = new List<DueStretch>();
        for (int next = 0; next < stretches.Count && sorted.Count < StepHits; )
        {
            var chunk = new List<DueStretch>();
            for (int hits = 0; next < stretches.Count && hits < StepHits && chunk.Count < StretchesAtOnce; next++)
            {
                chunk.Add(stretches[next]);
                hits += stretches[next].Hits;
            }

            foreach (var (stretch, hits, before) in await ReadAsync(chunk, cancel))
            {
                var whole = stretch;
                var inside = hits;
                if (hits.Count > StepHits)
                {
                    var cut = CutOf(hits);
                    inside = [.. hits.Where(h => h.At < cut)];
                    whole = stretch with { Until = cut };
                    rest.Add(stretch with { From = cut, Hits = Math.Max(1, stretch.Hits - inside.Count) });
                }

                done.Add(whole);
                sorted.AddRange(HitClassifier.Sort(before is null ? inside : [before, .. inside]).Skip(before is null ? 0 : 1));
            }
        }

        return (sorted, done, rest);
    }

    /// <summary>Where a stretch is cut: before its last moment, unless all of it is one moment, which then goes whole.</summary>
    private static DateTimeOffset CutOf(List<RawHit> hits) => hits[^1].At > hits[0].At ? hits[^1].At : hits[^1].At + Tick;

    private static DueStretch Joined(DueStretch one, DueStretch other) =>
        one with
        {
            From = one.From < other.From ? one.From : other.From,
            Until = one.Until > other.Until ? one.Until : other.Until,
            Marks = [.. one.Marks, .. other.Marks],
            Hits = one.Hits + other.Hits,
        };

    /// <summary>
    /// Each stretch's hits in the order of time, then id: at most one more than a step has, except that a moment is never
    /// read in part; and a person's last hit before it, where that was within the time of a double tap. Over midnight that hit
    /// has the hash of the day before.
    /// </summary>
    private async Task<List<(DueStretch Stretch, List<RawHit> Hits, RawHit? Before)>> ReadAsync(
        List<DueStretch> stretches,
        CancellationToken cancel
    )
    {
        // “offset 0” keeps the database from going back through the hits of all visitors, however many a second there are, to find
        // the one it is to put first.
        await using var command = new NpgsqlCommand(
            """
            select d.place, h.id, h.at, h.flags, h.user_agent, h.referrer, h.country, h.region, h.city, h.before
            from unnest($1, $2, $3, $4, $5) with ordinality as d(workspace_id, visitor, short_link_id, from_at, until_at, place)
            cross join lateral (
                select array(select distinct y.earlier_visitor from hit y
                    where y.workspace_id = d.workspace_id and y.visitor = d.visitor and y.short_link_id = d.short_link_id
                        and y.at >= d.from_at and y.at <= d.from_at + $7 and y.earlier_visitor is not null) as visitors
            ) earlier
            cross join lateral (
                (select b.*, true as before from (
                    select * from hit r
                    where r.workspace_id = d.workspace_id and r.visitor = any (d.visitor || earlier.visitors) and r.short_link_id = d.short_link_id
                        and r.at < d.from_at and r.at >= d.from_at - $7 and r.flags = 0
                    offset 0) b
                    order by b.at desc, b.id desc limit 1)
                union all
                (select r.*, false from hit r
                    where r.workspace_id = d.workspace_id and r.visitor = d.visitor and r.short_link_id = d.short_link_id
                        and r.at >= d.from_at and r.at < d.until_at
                    order by r.at fetch first $6 rows with ties)
            ) h
            order by d.place, h.at, h.id
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = stretches.Select(s => s.WorkspaceId).ToArray() },
                new() { Value = stretches.Select(s => s.Visitor).ToArray() },
                new() { Value = stretches.Select(s => s.ShortLinkId).ToArray() },
                new() { Value = stretches.Select(s => s.From).ToArray() },
                new() { Value = stretches.Select(s => s.Until).ToArray() },
                new() { Value = (long)StepHits + 1 },
                new() { Value = HitClassifier.DoubleTapWithin },
            },
        };
        var read = stretches.ConvertAll(s => (Stretch: s, Hits: new List<RawHit>(), Before: (RawHit?)null));
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            int place = (int)reader.GetInt64(0) - 1;
            var stretch = stretches[place];
            var hit = new RawHit(
                reader.GetGuid(1),
                stretch.WorkspaceId,
                reader.GetFieldValue<DateTimeOffset>(2),
                stretch.ShortLinkId,
                stretch.Visitor,
                null,
                (HitFlags)reader.GetInt16(3),
                reader.GetString(4),
                reader.GetString(5),
                reader.GetString(6),
                reader.GetString(7),
                reader.GetString(8)
            );
            if (reader.GetBoolean(9))
            {
                read[place] = read[place] with { Before = hit };
            }
            else
            {
                read[place].Hits.Add(hit);
            }
        }

        return read;
    }
}
