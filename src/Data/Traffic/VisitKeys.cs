using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// The integer keys of what visits refer to: sources, pages, places, devices. What is new gets its key first; a key once given stays.
/// </summary>
internal sealed class VisitKeys
{
    private readonly Dictionary<TrafficSourceKey, int> _sources = [];
    private readonly HashSet<TrafficSourceKey> _limited = [];
    private readonly Dictionary<(Guid WorkspaceId, string Page), int> _pages = [];
    private readonly Dictionary<Whereabouts, int> _places = [];
    private readonly Dictionary<(Guid WorkspaceId, VisitDevice Device), int> _devices = [];
    private IReadOnlySet<BroughtValue> _refusedNames = new HashSet<BroughtValue>();

    public int SourceOf(Visit visit) => _sources[TrafficSourceKey.Of(visit)];

    /// <summary>True where the visit's source does not say all that the visit brought: there were too many values.</summary>
    public bool IsLimited(Visit visit) => _limited.Contains(TrafficSourceKey.Of(visit));

    public int PageOf(Visit visit, string page) => _pages[(visit.WorkspaceId, page)];

    public int PlaceOf(Visit visit) => _places[visit.Place];

    public int DeviceOf(Visit visit) => _devices[(visit.WorkspaceId, visit.Device)];

    /// <summary>What the events of a visit are called in reports, each once, with how often.</summary>
    public IEnumerable<(string Name, int Times)> EventsOf(Visit visit) =>
        (visit.EventNames ?? Enumerable.Empty<KeyValuePair<string, int>>())
            .GroupBy(
                e => _refusedNames.Contains(new(visit.WorkspaceId, ValueBook.EventNames, e.Key)) ? ValueLimits.Many : e.Key,
                e => e.Value
            )
            .Select(g => (g.Key, g.Sum()));

    /// <summary>What the spots of a visit are called in reports, each once, with what it did with them.</summary>
    public IEnumerable<(string Name, VisitSpot Spot)> SpotsOf(Visit visit) =>
        (visit.Spots ?? Enumerable.Empty<KeyValuePair<string, VisitSpot>>())
            .GroupBy(s => _refusedNames.Contains(new(visit.WorkspaceId, ValueBook.Spots, s.Key)) ? ValueLimits.Many : s.Key, s => s.Value)
            .Select(g =>
                (
                    g.Key,
                    new VisitSpot
                    {
                        Seen = g.Sum(s => s.Seen),
                        Clicked = g.Sum(s => s.Clicked),
                        ConversionsAfterSeen = g.Max(s => s.ConversionsAfterSeen),
                        ConversionsAfterClicked = g.Max(s => s.ConversionsAfterClicked),
                    }
                )
            );

    /// <summary>Reads the keys of everything the visits refer to.</summary>
    public static async Task<VisitKeys> OfAsync(NpgsqlConnection connection, IReadOnlyList<Visit> visits, CancellationToken cancel)
    {
        var keys = new VisitKeys();
        var book = new ValueBook(connection);
        var inOrder = visits.OrderBy(v => v.StartedAt).ThenBy(v => v.Id).ToList();
        await keys.ReadSourcesAsync(connection, book, inOrder, cancel);
        await keys.ReadPagesAsync(connection, book, inOrder, cancel);
        await keys.ReadPlacesAsync(connection, [.. visits.Select(v => v.Place).Distinct()], cancel);
        await keys.ReadDevicesAsync(connection, book, inOrder, cancel);
        keys._refusedNames = await book.RefusedAsync(
            inOrder.SelectMany(v =>
                (v.EventNames?.Keys ?? [])
                    .Order(StringComparer.Ordinal)
                    .Select(n => (new BroughtValue(v.WorkspaceId, ValueBook.EventNames, n), v.Day))
                    .Concat(
                        (v.Spots?.Keys ?? [])
                            .Order(StringComparer.Ordinal)
                            .Select(n => (new BroughtValue(v.WorkspaceId, ValueBook.Spots, n), v.Day))
                    )
            ),
            cancel
        );
        return keys;
    }

    private async Task ReadSourcesAsync(NpgsqlConnection connection, ValueBook book, List<Visit> visits, CancellationToken cancel)
    {
        await FindSourcesAsync(connection, [.. visits.Select(TrafficSourceKey.Of).Distinct()], cancel);

        // A source that is new may bring values that are new.
        var fresh = visits
            .Select(v => (Key: TrafficSourceKey.Of(v), v.Day))
            .DistinctBy(s => s.Key)
            .Where(s => !_sources.ContainsKey(s.Key))
            .ToList();
        if (fresh.Count == 0)
        {
            return;
        }

        // Values of a key there is no room for take no room.
        var keys = await book.RefusedAsync(fresh.SelectMany(s => KeysOf(s.Key).Select(v => (v, s.Day))), cancel);
        var known = fresh.Select(s => (s.Key, Left: WithoutKeys(s.Key, keys), s.Day)).ToList();
        var values = await book.RefusedAsync(known.SelectMany(s => ValuesOf(s.Left).Select(v => (v, s.Day))), cancel);
        var kept = known.ToDictionary(s => s.Key, s => WithoutValues(s.Left, values));
        await FindSourcesAsync(connection, [.. kept.Values.Distinct()], cancel);
        await MakeSourcesAsync(connection, [.. kept.Values.Distinct().Where(k => !_sources.ContainsKey(k))], cancel);
        foreach (var (brought, key) in kept)
        {
            _sources[brought] = _sources[key];
            if (brought != key)
            {
                _limited.Add(brought);
            }
        }
    }

    private static IEnumerable<BroughtValue> KeysOf(TrafficSourceKey source) =>
        source.Tags.Values.Keys.Order(StringComparer.Ordinal).Select(key => new BroughtValue(source.WorkspaceId, ValueBook.Keys, key));

    private static IEnumerable<BroughtValue> ValuesOf(TrafficSourceKey source) =>
        source
            .Tags.Values.Append(KeyValuePair.Create(ValueBook.Referrers, source.ReferrerHost))
            .Append(KeyValuePair.Create(ValueBook.Typed, source.Typed))
            .Where(t => t.Value.Length > 0 && t.Value != ValueLimits.Many)
            .OrderBy(t => t.Key, StringComparer.Ordinal)
            .Select(t => new BroughtValue(source.WorkspaceId, t.Key, t.Value));

    private static TrafficSourceKey WithoutKeys(TrafficSourceKey source, IReadOnlySet<BroughtValue> refused) =>
        KeysOf(source).Any(refused.Contains)
            ? source with
            {
                Tags = source.Tags.With((key, value) => refused.Contains(new(source.WorkspaceId, ValueBook.Keys, key)) ? null : value),
            }
            : source;

    private static TrafficSourceKey WithoutValues(TrafficSourceKey source, IReadOnlySet<BroughtValue> refused)
    {
        return ValuesOf(source).Any(refused.Contains)
            ? source with
            {
                Tags = source.Tags.With(Kept),
                ReferrerHost = source.ReferrerHost.Length == 0 ? "" : Kept(ValueBook.Referrers, source.ReferrerHost),
                Typed = source.Typed.Length == 0 ? "" : Kept(ValueBook.Typed, source.Typed),
            }
            : source;

        string Kept(string key, string value) => refused.Contains(new(source.WorkspaceId, key, value)) ? ValueLimits.Many : value;
    }

    private Task FindSourcesAsync(NpgsqlConnection connection, TrafficSourceKey[] sources, CancellationToken cancel)
    {
        var byHash = sources.ToDictionary(s => (s.WorkspaceId, s.Hash()));
        return ReadAsync(
            connection,
            """
            select s.id, s.workspace_id, s.hash from traffic_source s
            join unnest($1, $2) as g(workspace_id, hash) on g.workspace_id = s.workspace_id and g.hash = s.hash
            """,
            reader => _sources[byHash[(reader.GetGuid(1), reader.GetGuid(2))]] = reader.GetInt32(0),
            cancel,
            byHash.Keys.Select(k => k.WorkspaceId).ToArray(),
            byHash.Keys.Select(k => k.Item2).ToArray()
        );
    }

    private Task MakeSourcesAsync(NpgsqlConnection connection, TrafficSourceKey[] sources, CancellationToken cancel)
    {
        var byHash = sources.ToDictionary(s => (s.WorkspaceId, s.Hash()));
        var rows = byHash.OrderBy(r => r.Key.Item2).ToList();
        return ReadAsync(
            connection,
            """
            insert into traffic_source (workspace_id, hash, site_id, link_id, referrer_host, printed, tags, typed)
            select * from unnest($1, $2, $3, $4, $5, $6, $7::jsonb[], $8)
            returning id, workspace_id, hash
            """,
            reader => _sources[byHash[(reader.GetGuid(1), reader.GetGuid(2))]] = reader.GetInt32(0),
            cancel,
            rows.Select(r => r.Key.WorkspaceId).ToArray(),
            rows.Select(r => r.Key.Item2).ToArray(),
            rows.Select(r => r.Value.SiteId).ToArray(),
            rows.Select(r => r.Value.LinkId).ToArray(),
            rows.Select(r => r.Value.ReferrerHost).ToArray(),
            rows.Select(r => r.Value.Printed).ToArray(),
            rows.Select(r => r.Value.Tags.Json).ToArray(),
            rows.Select(r => r.Value.Typed).ToArray()
        );
    }

    private async Task ReadPagesAsync(NpgsqlConnection connection, ValueBook book, List<Visit> visits, CancellationToken cancel)
    {
        var seen = visits
            .SelectMany(v => v.Views.Select(p => p.Page).Append(v.LandingPage).Select(page => (Page: (v.WorkspaceId, Page: page), v.Day)))
            .DistinctBy(p => p.Page)
            .ToList();
        await FindPagesAsync(connection, [.. seen.Select(p => p.Page)], cancel);
        var fresh = seen.Where(p => !_pages.ContainsKey(p.Page)).ToList();
        if (fresh.Count == 0)
        {
            return;
        }

        var refused = await book.RefusedAsync(
            fresh.Select(p => (new BroughtValue(p.Page.WorkspaceId, ValueBook.Pages, p.Page.Page), p.Day)),
            cancel
        );
        var kept = fresh.ToDictionary(
            p => p.Page,
            p =>
                refused.Contains(new BroughtValue(p.Page.WorkspaceId, ValueBook.Pages, p.Page.Page))
                    ? (p.Page.WorkspaceId, Page: ValueLimits.Many)
                    : p.Page
        );
        await FindPagesAsync(connection, [.. kept.Values.Distinct()], cancel);
        await MakePagesAsync(connection, [.. kept.Values.Distinct().Where(p => !_pages.ContainsKey(p))], cancel);
        foreach (var (page, key) in kept)
        {
            _pages[page] = _pages[key];
        }
    }

    private Task FindPagesAsync(NpgsqlConnection connection, (Guid WorkspaceId, string Page)[] pages, CancellationToken cancel)
    {
        var byKey = ByKey(pages);
        return ReadAsync(
            connection,
            """
            select p.id, p.workspace_id, p.key from visited_page p
            join unnest($1, $2) as g(workspace_id, key) on g.workspace_id = p.workspace_id and g.key = p.key
            """,
            reader => Know(byKey[(reader.GetGuid(1), reader.GetInt64(2))], reader.GetInt32(0)),
            cancel,
            byKey.Keys.Select(k => k.WorkspaceId).ToArray(),
            byKey.Keys.Select(k => k.Key).ToArray()
        );
    }

    private Task MakePagesAsync(NpgsqlConnection connection, (Guid WorkspaceId, string Page)[] pages, CancellationToken cancel)
    {
        var byKey = ByKey(pages);
        var rows = byKey.OrderBy(r => r.Key.Key).ToList();
        return ReadAsync(
            connection,
            "insert into visited_page (workspace_id, key, address) select * from unnest($1, $2, $3) returning id, workspace_id, key",
            reader => Know(byKey[(reader.GetGuid(1), reader.GetInt64(2))], reader.GetInt32(0)),
            cancel,
            rows.Select(r => r.Key.WorkspaceId).ToArray(),
            rows.Select(r => r.Key.Key).ToArray(),
            rows.Select(r => r.Value[0].Page).ToArray()
        );
    }

    private void Know(List<(Guid WorkspaceId, string Page)> pages, int id)
    {
        foreach (var page in pages)
        {
            _pages[page] = id;
        }
    }

    /// <summary>Pages whose addresses differ in nothing that tells pages apart have one key.</summary>
    private static Dictionary<(Guid WorkspaceId, long Key), List<(Guid WorkspaceId, string Page)>> ByKey(
        IEnumerable<(Guid WorkspaceId, string Page)> pages
    ) => pages.GroupBy(p => (p.WorkspaceId, PageKey.Of(p.Page))).ToDictionary(g => g.Key, g => g.ToList());

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

    private async Task ReadDevicesAsync(NpgsqlConnection connection, ValueBook book, List<Visit> visits, CancellationToken cancel)
    {
        var seen = visits.Select(v => (v.WorkspaceId, v.Device, v.Day)).DistinctBy(d => (d.WorkspaceId, d.Device)).ToList();
        var refused = await book.RefusedAsync(seen.SelectMany(d => PartsOf(d.WorkspaceId, d.Device).Select(part => (part, d.Day))), cancel);
        var kept = seen.ToDictionary(d => (d.WorkspaceId, d.Device), d => WithoutParts(d.WorkspaceId, d.Device, refused));
        var ids = await DeviceIdsAsync(connection, [.. kept.Values.Distinct()], cancel);
        foreach (var (brought, device) in kept)
        {
            _devices[brought] = ids[device];
        }
    }

    private static IEnumerable<BroughtValue> PartsOf(Guid workspaceId, VisitDevice device) =>
        new BroughtValue[]
        {
            new(workspaceId, ValueBook.Models, device.Model),
            new(workspaceId, ValueBook.Systems, device.System),
            new(workspaceId, ValueBook.Browsers, device.Browser),
        }.Where(p => p.Value.Length > 0);

    private static VisitDevice WithoutParts(Guid workspaceId, VisitDevice device, IReadOnlySet<BroughtValue> refused)
    {
        return device with
        {
            Model = Kept(ValueBook.Models, device.Model),
            System = Kept(ValueBook.Systems, device.System),
            Browser = Kept(ValueBook.Browsers, device.Browser),
        };

        string Kept(string key, string value) => refused.Contains(new(workspaceId, key, value)) ? ValueLimits.Many : value;
    }

    private static async Task<Dictionary<VisitDevice, int>> DeviceIdsAsync(
        NpgsqlConnection connection,
        VisitDevice[] devices,
        CancellationToken cancel
    )
    {
        var rows = devices
            .OrderBy(d => d.Kind, StringComparer.Ordinal)
            .ThenBy(d => d.Model, StringComparer.Ordinal)
            .ThenBy(d => d.System, StringComparer.Ordinal)
            .ThenBy(d => d.Browser, StringComparer.Ordinal)
            .ThenBy(d => d.Language, StringComparer.Ordinal)
            .ToList();
        var ids = new Dictionary<VisitDevice, int>();
        await ReadAsync(
            connection,
            """
            with given as (
                select * from unnest($1, $2, $3, $4, $5) as g(kind, model, system, browser, language)
            ), made as (
                insert into visit_device (kind, model, system, browser, language)
                select g.* from given g
                where not exists (
                    select from visit_device d
                    where (d.kind, d.model, d.system, d.browser, d.language) = (g.kind, g.model, g.system, g.browser, g.language)
                )
                on conflict (kind, model, system, browser, language) do update set language = excluded.language
                returning id, kind, model, system, browser, language
            )
            select * from made
            union all
            select d.id, d.kind, d.model, d.system, d.browser, d.language from visit_device d
            join given g on (d.kind, d.model, d.system, d.browser, d.language) = (g.kind, g.model, g.system, g.browser, g.language)
            """,
            reader =>
                ids[
                    new VisitDevice(reader.GetString(1), reader.GetString(2), reader.GetString(3), reader.GetString(4), reader.GetString(5))
                ] = reader.GetInt32(0),
            cancel,
            rows.Select(d => d.Kind).ToArray(),
            rows.Select(d => d.Model).ToArray(),
            rows.Select(d => d.System).ToArray(),
            rows.Select(d => d.Browser).ToArray(),
            rows.Select(d => d.Language).ToArray()
        );
        return ids;
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
