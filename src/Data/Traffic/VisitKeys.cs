using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// The integer keys of what visits refer to: sources, pages, places, devices. What is new gets its key first; a key once given stays.
/// </summary>
internal sealed class VisitKeys
{
    private readonly Dictionary<TrafficSourceKey, int> _sources = [];
    private readonly Dictionary<(Guid WorkspaceId, string Page), int> _pages = [];
    private readonly Dictionary<Whereabouts, int> _places = [];
    private readonly Dictionary<VisitDevice, int> _devices = [];

    public int SourceOf(Visit visit) => _sources[TrafficSourceKey.Of(visit)];

    public int PageOf(Visit visit, string page) => _pages[(visit.WorkspaceId, page)];

    public int PlaceOf(Visit visit) => _places[visit.Place];

    public int DeviceOf(Visit visit) => _devices[visit.Device];

    /// <summary>Reads the keys of everything the visits refer to.</summary>
    public static async Task<VisitKeys> OfAsync(NpgsqlConnection connection, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        var keys = new VisitKeys();
        await keys.ReadSourcesAsync(connection, [.. visits.Select(TrafficSourceKey.Of).Distinct()], cancel);
        await keys.ReadPagesAsync(
            connection,
            [.. visits.SelectMany(v => v.Views.Select(p => (v.WorkspaceId, p.Page)).Append((v.WorkspaceId, v.LandingPage))).Distinct()],
            cancel
        );
        await keys.ReadPlacesAsync(connection, [.. visits.Select(v => v.Place).Distinct()], cancel);
        await keys.ReadDevicesAsync(connection, [.. visits.Select(v => v.Device).Distinct()], cancel);
        return keys;
    }

    private Task ReadSourcesAsync(NpgsqlConnection connection, TrafficSourceKey[] sources, CancellationToken cancel)
    {
        var byHash = sources.Select(s => (Key: s, Hash: s.Hash())).ToDictionary(s => (s.Key.WorkspaceId, s.Hash), s => s.Key);
        var rows = byHash.OrderBy(r => r.Key.Hash).ToList();
        return ReadAsync(
            connection,
            """
            with given as (
                select * from unnest($1, $2, $3, $4, $5, $6, $7::jsonb[]) as g(workspace_id, hash, site_id, link_id, referrer_host, printed, tags)
            ), made as (
                insert into traffic_source (workspace_id, hash, site_id, link_id, referrer_host, printed, tags)
                select g.* from given g
                where not exists (select from traffic_source s where s.workspace_id = g.workspace_id and s.hash = g.hash)
                on conflict (workspace_id, hash) do update set printed = excluded.printed
                returning id, workspace_id, hash
            )
            select id, workspace_id, hash from made
            union all
            select s.id, s.workspace_id, s.hash from traffic_source s join given g on g.workspace_id = s.workspace_id and g.hash = s.hash
            """,
            reader => _sources[byHash[(reader.GetGuid(1), reader.GetGuid(2))]] = reader.GetInt32(0),
            cancel,
            rows.Select(r => r.Key.WorkspaceId).ToArray(),
            rows.Select(r => r.Key.Hash).ToArray(),
            rows.Select(r => r.Value.SiteId).ToArray(),
            rows.Select(r => r.Value.LinkId).ToArray(),
            rows.Select(r => r.Value.ReferrerHost).ToArray(),
            rows.Select(r => r.Value.Printed).ToArray(),
            rows.Select(r => r.Value.Tags.Json).ToArray()
        );
    }

    private Task ReadPagesAsync(NpgsqlConnection connection, (Guid WorkspaceId, string Page)[] pages, CancellationToken cancel)
    {
        var byKey = pages
            .Select(p => (Page: p, Key: PageKey.Of(p.Page)))
            .GroupBy(p => (p.Page.WorkspaceId, p.Key))
            .ToDictionary(g => g.Key, g => g.Select(p => p.Page).ToList());
        var rows = byKey.OrderBy(r => r.Key.Key).ToList();
        return ReadAsync(
            connection,
            """
            with given as (
                select * from unnest($1, $2, $3) as g(workspace_id, key, address)
            ), made as (
                insert into visited_page (workspace_id, key, address)
                select g.* from given g
                where not exists (select from visited_page p where p.workspace_id = g.workspace_id and p.key = g.key)
                on conflict (workspace_id, key) do update set address = visited_page.address
                returning id, workspace_id, key
            )
            select id, workspace_id, key from made
            union all
            select p.id, p.workspace_id, p.key from visited_page p join given g on g.workspace_id = p.workspace_id and g.key = p.key
            """,
            reader =>
            {
                foreach (var page in byKey[(reader.GetGuid(1), reader.GetInt64(2))])
                {
                    _pages[page] = reader.GetInt32(0);
                }
            },
            cancel,
            rows.Select(r => r.Key.WorkspaceId).ToArray(),
            rows.Select(r => r.Key.Key).ToArray(),
            rows.Select(r => r.Value[0].Page).ToArray()
        );
    }

    private Task ReadPlacesAsync(NpgsqlConnection connection, Whereabouts[] places, CancellationToken cancel)
    {
        var rows = places
            .OrderBy(p => p.Country, StringComparer.Ordinal)
            .ThenBy(p => p.Region, StringComparer.Ordinal)
            .ThenBy(p => p.City, StringComparer.Ordinal)
            .ToList();
        return ReadAsync(
            connection,
            """
            with given as (
                select * from unnest($1, $2, $3) as g(country, region, city)
            ), made as (
                insert into visit_place (country, region, city)
                select g.* from given g
                where not exists (select from visit_place p where p.country = g.country and p.region = g.region and p.city = g.city)
                on conflict (country, region, city) do update set city = excluded.city
                returning id, country, region, city
            )
            select * from made
            union all
            select p.id, p.country, p.region, p.city from visit_place p
            join given g on p.country = g.country and p.region = g.region and p.city = g.city
            """,
            reader => _places[new Whereabouts(reader.GetString(1), reader.GetString(2), reader.GetString(3))] = reader.GetInt32(0),
            cancel,
            rows.Select(p => p.Country).ToArray(),
            rows.Select(p => p.Region).ToArray(),
            rows.Select(p => p.City).ToArray()
        );
    }

    private Task ReadDevicesAsync(NpgsqlConnection connection, VisitDevice[] devices, CancellationToken cancel)
    {
        var rows = devices.OrderBy(d => d.Kind, StringComparer.Ordinal).ThenBy(d => d.Language, StringComparer.Ordinal).ToList();
        return ReadAsync(
            connection,
            """
            with given as (
                select * from unnest($1, $2) as g(kind, language)
            ), made as (
                insert into visit_device (kind, language)
                select g.* from given g where not exists (select from visit_device d where d.kind = g.kind and d.language = g.language)
                on conflict (kind, language) do update set language = excluded.language
                returning id, kind, language
            )
            select * from made
            union all
            select d.id, d.kind, d.language from visit_device d join given g on d.kind = g.kind and d.language = g.language
            """,
            reader => _devices[new VisitDevice(reader.GetString(1), reader.GetString(2))] = reader.GetInt32(0),
            cancel,
            rows.Select(d => d.Kind).ToArray(),
            rows.Select(d => d.Language).ToArray()
        );
    }

    private static async Task ReadAsync(
        NpgsqlConnection connection,
        string sql,
        Action<NpgsqlDataReader> take,
        CancellationToken cancel,
        params object[] values
    )
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            take(reader);
        }
    }
}
