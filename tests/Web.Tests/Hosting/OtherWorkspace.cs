using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>A second workspace, with a convention of its own and nothing else.</summary>
public static class OtherWorkspace
{
    /// <summary>Makes it.</summary>
    /// <returns>A key of its owner.</returns>
    public static async Task<string> MakeAsync(BeaconHost host)
    {
        string key = $"other-{Guid.NewGuid():N}";
        await using var command = host.Database.CreateCommand(
            """
            with w as (insert into workspaces (id, name, currency, time_zone, existing_tags, live_placeholders, plus_for_space, is_demo, created_at)
                values (gen_random_uuid(), 'Other garden', 'EUR', 'UTC', 'Replace', 'None', false, true, now()) returning id),
            k as (insert into api_keys (id, workspace_id, name, role, hash, demo_only, created_at)
                select gen_random_uuid(), id, 'other workspace', 'Owner', $1, true, now() from w),
            v as (insert into convention_versions (id, workspace_id, number, published_at) select gen_random_uuid(), id, 1, now() from w returning id, workspace_id)
            insert into field_row (id, workspace_id, convention_version_id, position, key, label, presence, "case", space, characters, outside, transliterate, longest_value, has_word_list, closed_list, holds_numbers, also_read)
                select gen_random_uuid(), workspace_id, id, 0, 'utm_source', 'Source', 'Offered', 'Lower', 'Underscore', 'Anything', 'Remove', false, 200, false, false, false, '{}' from v
            """
        );
        command.Parameters.Add(new() { Value = ApiKey.HashOf(key) });
        await command.ExecuteNonQueryAsync();
        return key;
    }
}
