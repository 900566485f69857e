using Npgsql;
using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.Data.Proofs;

/// <summary>
/// Counts the visitors of variants by day: whoever carries an id of the site counts once, for the variant seen first; without one each
/// visit counts.
/// </summary>
public sealed class VariantReader(NpgsqlDataSource database)
{
    /// <summary>The figures of each variant of each group, in their order.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="groups">The groups.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyList<VariantFigures>> ReadAsync(
        Guid workspaceId,
        IReadOnlyList<VariantGroup> groups,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        var figures = groups.Select(g => new VariantFigures(g.Variants.Count)).ToList();
        var links = groups.SelectMany((g, at) => g.Variants.SelectMany((v, place) => v.Links.Select(id => (id, at, place)))).ToList();
        if (links.Count == 0)
        {
            return figures;
        }

        await using var command = database.CreateCommand(
            """
            with seen as (
                select l.test, l.variant, v.has_id, case when v.has_id then v.visitor else v.id end as unit, v.day, v.started_at, v.id,
                    v.conversions > 0 as converted
                from unnest($2, $3, $4) as l(link_id, test, variant) join visit v on v.link_id = l.link_id
                where v.workspace_id = $1 and v.day between $5 and $6
                    and v.started_at between $5::timestamp - interval '1 day' and $6::timestamp + interval '2 days'
            ), unit as (
                select distinct on (test, unit) test, variant, has_id, day, bool_or(converted) over (partition by test, unit) as converted
                from seen order by test, unit, started_at, id
            )
            select test, variant, day, count(*), count(*) filter (where converted), count(*) filter (where has_id)
            from unit group by 1, 2, 3 order by 1, 2, 3
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = links.Select(l => l.id).ToArray() });
        command.Parameters.Add(new() { Value = links.Select(l => l.at).ToArray() });
        command.Parameters.Add(new() { Value = links.Select(l => l.place).ToArray() });
        command.Parameters.Add(new() { Value = from });
        command.Parameters.Add(new() { Value = to });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            figures[reader.GetInt32(0)]
                .Add(
                    reader.GetInt32(1),
                    new VariantDay(reader.GetFieldValue<DateOnly>(2), reader.GetInt64(3), reader.GetInt64(4)),
                    reader.GetInt64(5)
                );
        }

        return figures;
    }
}

/// <summary>Figures of a group's variants.</summary>
/// <param name="count">How many variants there are.</param>
public sealed class VariantFigures(int count)
{
    private readonly List<VariantDay>[] _days = [.. Enumerable.Range(0, count).Select(_ => new List<VariantDay>())];

    /// <summary>The variants in their order.</summary>
    public IReadOnlyList<Variant> Variants => [.. _days.Select(d => new Variant(d))];

    /// <summary>How many of those counted carry an id.</summary>
    public long WithId { get; private set; }

    /// <summary>How many are counted in all.</summary>
    public long All { get; private set; }

    internal void Add(int variant, VariantDay day, long withId)
    {
        _days[variant].Add(day);
        WithId += withId;
        All += day.Trials;
    }
}
