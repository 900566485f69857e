using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>A value that visits brought.</summary>
/// <param name="WorkspaceId">The workspace.</param>
/// <param name="Key">What it is a value of: the key of a tag, or one of <see cref="ValueBook"/>'s own.</param>
/// <param name="Value">The value.</param>
public readonly record struct BroughtValue(Guid WorkspaceId, string Key, string Value);

/// <summary>
/// Remembers which values were told apart, so that the same ones still are when everything is worked out again. Used within the
/// transaction that works visits out, which one process at a time does.
/// </summary>
public sealed class ValueBook(NpgsqlConnection connection)
{
    /// <summary>Hosts of referrers. No tag's key has a colon at its beginning.</summary>
    public const string Referrers = ":referrer";

    /// <summary>Keys of tags.</summary>
    public const string Keys = ":key";

    /// <summary>Pages.</summary>
    public const string Pages = ":page";

    /// <summary>What was typed behind short links.</summary>
    public const string Typed = ":typed";

    /// <summary>Models of devices.</summary>
    public const string Models = ":model";

    /// <summary>Operating systems.</summary>
    public const string Systems = ":system";

    /// <summary>Browsers.</summary>
    public const string Browsers = ":browser";

    /// <summary>Names of events.</summary>
    public const string EventNames = ":event";

    /// <summary>Names of spots.</summary>
    public const string Spots = ":spot";

    /// <summary>Takes new values up, in their order, as far as there is room.</summary>
    /// <param name="values">Values with the day they came on, in the order they came.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>Those there is no room for.</returns>
    public async Task<IReadOnlySet<BroughtValue>> RefusedAsync(
        IEnumerable<(BroughtValue Value, DateOnly Day)> values,
        CancellationToken cancel
    )
    {
        var brought = values.DistinctBy(v => v.Value).ToList();
        if (brought.Count == 0)
        {
            return new HashSet<BroughtValue>();
        }

        var fresh = await UnknownAsync(brought, cancel);
        var counts = await CountsAsync(fresh, cancel);
        var taken = new List<(BroughtValue Value, DateOnly Day)>();
        var refused = new HashSet<BroughtValue>();
        foreach (var (value, day) in fresh)
        {
            var key = (value.WorkspaceId, value.Key);
            var (inAll, ofDay) = (counts.GetValueOrDefault((key, null)), counts.GetValueOrDefault((key, day)));
            if (LimitsOf(value.Key).Room(ofDay, inAll) == 0)
            {
                refused.Add(value);
                continue;
            }

            taken.Add((value, day));
            counts[(key, null)] = inAll + 1;
            counts[(key, day)] = ofDay + 1;
        }

        await TakeAsync(taken, cancel);
        return refused;
    }

    /// <summary>Keys one of whose limits was reached on a day of a range.</summary>
    public static async Task<List<string>> FullAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select key, coalesce(max(new_values) filter (where day between $2 and $3), 0)::bigint, sum(new_values)::bigint
            from source_value_count where workspace_id = $1 group by key order by key
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = from },
                new() { Value = to },
            },
        };
        var full = new List<string>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (LimitsOf(reader.GetString(0)).Room(reader.GetInt64(1), reader.GetInt64(2)) == 0)
            {
                full.Add(reader.GetString(0));
            }
        }

        return full;
    }

    private static ValueLimits LimitsOf(string key) =>
        key switch
        {
            Keys => ValueLimits.OfKeys,
            Pages => ValueLimits.OfPages,
            Models => ValueLimits.OfModels,
            EventNames => ValueLimits.OfEventNames,
            Spots => ValueLimits.OfSpots,
            Systems or Browsers => ValueLimits.OfPrograms,
            _ => ValueLimits.OfTag,
        };

    private async Task<List<(BroughtValue Value, DateOnly Day)>> UnknownAsync(
        List<(BroughtValue Value, DateOnly Day)> brought,
        CancellationToken cancel
    )
    {
        await using var command = CommandOf(
            """
            select g.place::int from unnest($1, $2, $3) with ordinality as g(workspace_id, key, value, place)
            where not exists (
                select from source_value s where s.workspace_id = g.workspace_id and s.key = g.key and s.hash = value_hash(g.value)
            )
            order by g.place
            """,
            brought.Select(b => b.Value)
        );
        var unknown = new List<(BroughtValue, DateOnly)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            unknown.Add(brought[reader.GetInt32(0) - 1]);
        }

        return unknown;
    }

    /// <summary>Values by key, on each day there were new ones and, without a day, in all.</summary>
    private async Task<Dictionary<((Guid, string), DateOnly?), long>> CountsAsync(
        List<(BroughtValue Value, DateOnly Day)> fresh,
        CancellationToken cancel
    )
    {
        var keys = fresh.Select(f => (f.Value.WorkspaceId, f.Value.Key)).Distinct().ToList();
        await using var command = new NpgsqlCommand(
            """
            select c.workspace_id, c.key, c.day, c.new_values from source_value_count c
            join unnest($1, $2) as g(workspace_id, key) on g.workspace_id = c.workspace_id and g.key = c.key
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = keys.Select(k => k.WorkspaceId).ToArray() },
                new() { Value = keys.Select(k => k.Key).ToArray() },
            },
        };
        var counts = new Dictionary<((Guid, string), DateOnly?), long>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var key = (reader.GetGuid(0), reader.GetString(1));
            long count = reader.GetInt32(3);
            counts[(key, reader.GetFieldValue<DateOnly>(2))] = count;
            counts[(key, null)] = counts.GetValueOrDefault((key, null)) + count;
        }

        return counts;
    }

    private async Task TakeAsync(List<(BroughtValue Value, DateOnly Day)> taken, CancellationToken cancel)
    {
        if (taken.Count == 0)
        {
            return;
        }

        await using (
            var values = CommandOf(
                """
                insert into source_value (workspace_id, key, hash)
                select workspace_id, key, value_hash(value) from unnest($1, $2, $3) as g(workspace_id, key, value) on conflict do nothing
                """,
                taken.Select(t => t.Value)
            )
        )
        {
            await values.ExecuteNonQueryAsync(cancel);
        }

        var days = taken.GroupBy(t => (t.Value.WorkspaceId, t.Value.Key, t.Day)).ToList();
        await using var counts = new NpgsqlCommand(
            """
            insert into source_value_count as c (workspace_id, key, day, new_values) select * from unnest($1, $2, $3, $4)
            on conflict (workspace_id, key, day) do update set new_values = c.new_values + excluded.new_values
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = days.Select(d => d.Key.WorkspaceId).ToArray() },
                new() { Value = days.Select(d => d.Key.Key).ToArray() },
                new() { Value = days.Select(d => d.Key.Day).ToArray() },
                new() { Value = days.Select(d => d.Count()).ToArray() },
            },
        };
        await counts.ExecuteNonQueryAsync(cancel);
    }

    private NpgsqlCommand CommandOf(string sql, IEnumerable<BroughtValue> values)
    {
        var given = values.ToList();
        return new NpgsqlCommand(sql, connection)
        {
            Parameters =
            {
                new() { Value = given.Select(v => v.WorkspaceId).ToArray() },
                new() { Value = given.Select(v => v.Key).ToArray() },
                new() { Value = given.Select(v => v.Value).ToArray() },
            },
        };
    }
}
