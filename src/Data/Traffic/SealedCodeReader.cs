using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Looks up the codes of sealed links that events carry.</summary>
internal static class SealedCodeReader
{
    /// <summary>The rules with what the codes among the events stand for.</summary>
    public static async Task<IReadOnlyDictionary<Guid, VisitRules>> WithCodesAsync(
        NpgsqlConnection connection,
        IReadOnlyDictionary<Guid, VisitRules> rules,
        IEnumerable<RawPageEvent> events,
        CancellationToken cancel
    )
    {
        var codes = events
            .Select(e => (e.WorkspaceId, Code: rules[e.WorkspaceId].SealedKey is { } key ? Arrival.SealedCodeOf(e, key) : null))
            .Where(c => !string.IsNullOrEmpty(c.Code) && !c.Code.Contains('\0', StringComparison.Ordinal))
            .Distinct()
            .ToList();
        if (codes.Count == 0)
        {
            return rules;
        }

        await using var command = new NpgsqlCommand(
            """
            select s.workspace_id, s.code, s.values
            from unnest($1, $2) as c(workspace_id, code)
            join sealed_links s on s.workspace_id = c.workspace_id and s.code = c.code
            """,
            connection
        );
        command.Parameters.Add(new() { Value = codes.Select(c => c.WorkspaceId).ToArray() });
        command.Parameters.Add(new() { Value = codes.Select(c => c.Code!).ToArray() });
        var found = new Dictionary<Guid, Dictionary<string, IReadOnlyDictionary<string, string>>>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var workspace = reader.GetGuid(0);
            if (!found.TryGetValue(workspace, out var known))
            {
                found[workspace] = known = new(StringComparer.Ordinal);
            }

            known[reader.GetString(1)] = JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(2)) ?? [];
        }

        return rules.ToDictionary(r => r.Key, r => found.TryGetValue(r.Key, out var known) ? r.Value with { Sealed = known } : r.Value);
    }
}
