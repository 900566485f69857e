using System.Collections.Concurrent;
using Npgsql;
using PreciseBeacon.Core.Conversions;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Reads what counts as a conversion, and keeps it as long as nobody changes it.</summary>
internal static class ConversionDefinitionReader
{
    /// <summary>One entry for each workspace; each remembers a bounded number of pages.</summary>
    private static readonly ConcurrentDictionary<Guid, (Guid Stamp, ConversionDefinitions Definitions)> Known = new();

    /// <summary>The definitions of workspaces that have had any, by workspace.</summary>
    /// <param name="connection">Where to read.</param>
    /// <param name="stamps">The stamp of each workspace's definitions, of those that ever had any.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task<IReadOnlyDictionary<Guid, ConversionDefinitions>> ReadAsync(
        NpgsqlConnection connection,
        IReadOnlyDictionary<Guid, Guid> stamps,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<Guid, ConversionDefinitions>();
        foreach (var (workspace, stamp) in stamps)
        {
            if (!Known.TryGetValue(workspace, out var known) || known.Stamp != stamp)
            {
                Known[workspace] = known = (stamp, new ConversionDefinitions(await ReadAsync(connection, workspace, cancel)));
            }

            found[workspace] = known.Definitions;
        }

        return found;
    }

    private static async Task<List<ConversionDefinition>> ReadAsync(NpgsqlConnection connection, Guid workspaceId, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select k.id, k.name, k.test, k.text, k.value, w.currency, k.takes_value, k.counts_each
            from conversion_kinds k join workspaces w on w.id = k.workspace_id
            where k.workspace_id = $1 order by k.id
            """,
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        var definitions = new List<ConversionDefinition>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            definitions.Add(
                new ConversionDefinition(
                    reader.GetGuid(0),
                    reader.GetString(1),
                    Enum.Parse<ConversionTest>(reader.GetString(2)),
                    reader.GetString(3)
                )
                {
                    Value = reader.IsDBNull(4) ? null : reader.GetDecimal(4),
                    Currency = reader.GetString(5),
                    TakesValue = reader.GetBoolean(6),
                    CountsEach = reader.GetBoolean(7),
                }
            );
        }

        return definitions;
    }
}
