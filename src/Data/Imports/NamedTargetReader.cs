using Npgsql;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Data.Imports;

/// <summary>Reads what names in files may mean.</summary>
public sealed class NamedTargetReader(NpgsqlDataSource database)
{
    /// <summary>What names in files of a workspace may mean.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="links">What the files say of links; empty texts say nothing.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<TargetNames> ReadAsync(Guid workspaceId, IEnumerable<string> links, CancellationToken cancel)
    {
        var campaigns = new List<(Guid, string, string)>();
        var placements = new List<(Guid, string)>();
        await using (
            var command = database.Command(
                """
                select id, name, value from campaigns where workspace_id = $1
                union all
                select id, name, null from placements where workspace_id = $1
                """,
                workspaceId
            )
        )
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                var (id, name) = (reader.GetGuid(0), reader.GetString(1));
                if (await reader.IsDBNullAsync(2, cancel))
                {
                    placements.Add((id, name));
                }
                else
                {
                    campaigns.Add((id, name, reader.GetString(2)));
                }
            }
        }

        return new TargetNames(
            await LinksAsync(workspaceId, [.. links.Where(l => l.Length > 0).Distinct()], cancel),
            campaigns,
            placements
        );
    }

    /// <summary>The links that texts of a file mean: ids, short URLs, whole URLs and titles.</summary>
    /// <returns>By text, all links it may mean; texts that mean none are left out.</returns>
    private async Task<IReadOnlyDictionary<string, IReadOnlyList<Guid>>> LinksAsync(
        Guid workspaceId,
        IReadOnlyCollection<string> texts,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<string, IReadOnlyList<Guid>>(StringComparer.Ordinal);
        if (texts.Count == 0)
        {
            return found;
        }

        await using var command = database.CreateCommand(
            """
            with given as (
                select text, lower(regexp_replace(regexp_replace(text, '^https?://', '', 'i'), '[/?#]*$', '')) as bare from unnest($2) g(text)
            )
            select g.text, array_agg(distinct l.id)
            from given g
            cross join lateral (
                select id from links where workspace_id = $1 and id = case when g.text ~* '^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$' then g.text::uuid end
                union all
                select s.link_id from short_links s join short_domains d on d.id = s.short_domain_id
                where d.workspace_id = $1 and position('/' in g.bare) > 0
                    and d.host = split_part(g.bare, '/', 1) and s.slug = split_part(g.bare, '/', 2) and split_part(g.bare, '/', 3) = ''
                union all
                select id from links where workspace_id = $1 and url = g.text
                union all
                select id from links where workspace_id = $1 and title = g.text
            ) l
            group by g.text
            """
        );
        command.CommandTimeout = 120;
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = texts.ToArray() });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found[reader.GetString(0)] = reader.GetFieldValue<Guid[]>(1);
        }

        return found;
    }
}
