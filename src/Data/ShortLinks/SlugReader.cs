using Npgsql;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Data.ShortLinks;

/// <summary>Reads slugs and their changes into a <see cref="SlugTable"/>; changes are numbered in the order of their commits.</summary>
public static class SlugReader
{
    private const string Select = """
        select d.host, s.slug, s.id, s.workspace_id, case when not l.is_waiting then s.target end, l.paused, l.ends_at, l.fallback,
            l.uses_left, l.turns::text, l.permanent, l.carries, l.click_ids
        from short_links s join short_domains d on d.id = s.short_domain_id join links l on l.id = s.link_id
        """;

    private const string NothingCarried = nameof(CarriedParameters.Nothing);

    /// <summary>Has the connection told of every change from now on.</summary>
    public static async Task ListenAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("listen slug_change; listen place_change", connection);
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Has whoever listens look for changes now.</summary>
    public static async Task NudgeAsync(NpgsqlDataSource database, CancellationToken cancel)
    {
        await using var command = database.CreateCommand("notify slug_change");
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Reads every slug.</summary>
    public static async Task ReadAllAsync(NpgsqlConnection connection, SlugTable table, DateTimeOffset now, CancellationToken cancel)
    {
        await using var all = new NpgsqlCommand(Select, connection);
        await ReadEntriesAsync(all, table, now, cancel);
    }

    /// <summary>Reads the slugs that were changed after one number and up to another.</summary>
    public static async Task ReadChangedAsync(
        NpgsqlConnection connection,
        SlugTable table,
        long after,
        long until,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var changed = new NpgsqlCommand(
            $"{Select} where s.id in (select short_link_id from slug_change where seq > $1 and seq <= $2) order by s.link_id",
            connection
        );
        changed.Parameters.Add(new() { Value = after });
        changed.Parameters.Add(new() { Value = until });
        await ReadEntriesAsync(changed, table, now, cancel);
    }

    /// <summary>Numbers of the oldest change that is kept and of the newest; 0 where there was none.</summary>
    public static async Task<(long Oldest, long Newest)> RangeAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var range = new NpgsqlCommand("select coalesce(min(seq), 0), coalesce(max(seq), 0) from slug_change", connection);
        await using var reader = await range.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return (reader.GetInt64(0), reader.GetInt64(1));
    }

    /// <summary>Reads the short domains.</summary>
    public static async Task ReadDomainsAsync(NpgsqlConnection connection, SlugTable table, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select d.host, d.proof, w.name from short_domains d join workspaces w on w.id = d.workspace_id",
            connection
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var domains = new Dictionary<string, DomainFacts>(StringComparer.OrdinalIgnoreCase);
        while (await reader.ReadAsync(cancel))
        {
            domains[reader.GetString(0)] = new DomainFacts(reader.GetString(1), reader.GetString(2));
        }

        table.SetDomains(domains);
    }

    private static async Task ReadEntriesAsync(NpgsqlCommand command, SlugTable table, DateTimeOffset now, CancellationToken cancel)
    {
        await using var reader = await command.ExecuteReaderAsync(cancel);
        string? before = null;
        while (await reader.ReadAsync(cancel))
        {
            // A link's slugs for text and for its code mostly come one after the other; they share the address they lead to.
            string? target = reader.IsDBNull(4) ? null : reader.GetString(4);
            before = target == before ? before : target;
            var conditions = RouteConditions.Of(
                reader.GetBoolean(5),
                reader.IsDBNull(6) ? null : reader.GetFieldValue<DateTimeOffset>(6),
                reader.IsDBNull(7) ? null : reader.GetString(7),
                reader.IsDBNull(8) ? null : reader.GetInt32(8),
                reader.IsDBNull(9) ? null : RedirectRule.Read(reader.GetString(9)),
                reader.GetBoolean(10),
                reader.GetString(11) is NothingCarried ? CarriedParameters.Nothing : Enum.Parse<CarriedParameters>(reader.GetString(11)),
                target,
                now,
                reader.GetBoolean(12)
            );
            table.Set(reader.GetString(0), reader.GetString(1), new SlugEntry(reader.GetGuid(2), reader.GetGuid(3), before, conditions));
        }
    }
}
