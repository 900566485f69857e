using Npgsql;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Reads what visits are worked out with: own hosts, tag keys and time zone, for every workspace.</summary>
internal static class VisitRulesReader
{
    public static async Task<IReadOnlyDictionary<Guid, VisitRules>> ReadAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        var rules = new Dictionary<Guid, VisitRules>();
        await using var command = new NpgsqlCommand(
            """
            select w.id, w.time_zone,
                array(select h.host from site_hosts h where h.workspace_id = w.id),
                array(select f.key from field_row f where f.convention_version_id = v.id order by f.position),
                array(select array_to_string(f.also_read, ' ') from field_row f where f.convention_version_id = v.id order by f.position),
                v.settings ->> 'sealedKey',
                array(select d.host from short_domains d where d.workspace_id = w.id),
                array(
                    select f.key from field_row f join convention_versions o on o.id = f.convention_version_id and o.published_at is not null
                        where o.workspace_id = w.id
                    union select unnest(f.also_read) from field_row f join convention_versions o on o.id = f.convention_version_id and o.published_at is not null
                        where o.workspace_id = w.id
                    union select o.settings ->> 'sealedKey' from convention_versions o
                        where o.workspace_id = w.id and o.published_at is not null and o.settings ->> 'sealedKey' is not null
                    order by 1),
                array(select p.host from passing_hosts p where p.workspace_id = w.id),
                w.raw_from, w.conversions_stamp
            from workspaces w
            left join lateral (
                select id, settings from convention_versions
                where workspace_id = w.id and published_at is not null
                order by number desc limit 1
            ) v on true
            """,
            connection
        );
        var stamps = new Dictionary<Guid, Guid>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (!reader.IsDBNull(10))
            {
                stamps[reader.GetGuid(0)] = reader.GetGuid(10);
            }

            string[] hosts = reader.GetFieldValue<string[]>(2);
            string[] keys = reader.GetFieldValue<string[]>(3);
            string[] alsoRead = reader.GetFieldValue<string[]>(4);
            var tags = keys.Select((key, i) => new Tag(key, "", alsoRead[i].Split(' ', StringSplitOptions.RemoveEmptyEntries))).ToList();
            rules[reader.GetGuid(0)] = new VisitRules(hosts.ToHashSet(), tags, TimeZoneInfo.FindSystemTimeZoneById(reader.GetString(1)))
            {
                SealedKey = reader.IsDBNull(5) ? null : reader.GetString(5),
                ShortHosts = reader.GetFieldValue<string[]>(6).ToHashSet(),
                Vocabulary = new TagVocabulary(reader.GetFieldValue<string[]>(7)),
                RawFrom = reader.IsDBNull(9) ? null : reader.GetFieldValue<DateOnly>(9),
                PassingHosts = reader.GetFieldValue<string[]>(8).ToHashSet(),
            };
        }

        await reader.DisposeAsync();
        foreach (var (workspace, definitions) in await ConversionDefinitionReader.ReadAsync(connection, stamps, cancel))
        {
            rules[workspace] = rules[workspace] with { Conversions = definitions };
        }

        return rules;
    }
}
