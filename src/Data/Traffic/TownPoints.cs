using System.Collections.Concurrent;
using System.Net;
using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Where towns lie that visitors came from, so that a map can show them. They are learned from the file of addresses as visitors come, one
/// point for each town; nothing of a visitor is in them.
/// </summary>
public sealed class TownPoints(Countries countries)
{
    /// <summary>Towns that are remembered as stored, and that wait to be; more give way, and are learned when they come again.</summary>
    private const int Most = 50_000;

    private readonly ConcurrentDictionary<Whereabouts, bool> _known = new();
    private readonly ConcurrentQueue<(Whereabouts Town, GeoPoint Point)> _waiting = new();
    private int _count;

    /// <summary>Learns where the town of an address lies, if that is not known yet.</summary>
    /// <param name="town">What is known of the address.</param>
    /// <param name="address">The address; it goes no further.</param>
    public void Learn(Whereabouts town, IPAddress? address)
    {
        if (town.City.Length == 0 || _known.ContainsKey(town) || countries.PointOf(address) is not { } point || !_known.TryAdd(town, true))
        {
            return;
        }

        if (Interlocked.Increment(ref _count) > Most)
        {
            _known.Clear();
            _waiting.Clear();
            Volatile.Write(ref _count, 0);
        }

        _waiting.Enqueue((town, point));
    }

    /// <summary>Stores what was learned. What is stored already stays.</summary>
    public async Task StoreAsync(NpgsqlDataSource database, CancellationToken cancel)
    {
        var learned = new List<(Whereabouts Town, GeoPoint Point)>();
        while (_waiting.TryDequeue(out var one))
        {
            learned.Add(one);
        }

        if (learned.Count == 0)
        {
            return;
        }

        try
        {
            await using var command = database.CreateCommand(
                """
                insert into town_point (country, region, town, latitude, longitude)
                select * from unnest($1, $2, $3, $4, $5) on conflict do nothing
                """
            );
            var rows = learned
                .OrderBy(l => l.Town.Country, StringComparer.Ordinal)
                .ThenBy(l => l.Town.Region, StringComparer.Ordinal)
                .ThenBy(l => l.Town.City, StringComparer.Ordinal)
                .ToList();
            command.Parameters.Add(new() { Value = rows.Select(l => l.Town.Country).ToArray() });
            command.Parameters.Add(new() { Value = rows.Select(l => l.Town.Region).ToArray() });
            command.Parameters.Add(new() { Value = rows.Select(l => l.Town.City).ToArray() });
            command.Parameters.Add(new() { Value = rows.Select(l => l.Point.Latitude).ToArray() });
            command.Parameters.Add(new() { Value = rows.Select(l => l.Point.Longitude).ToArray() });
            await command.ExecuteNonQueryAsync(cancel);
        }
        catch
        {
            // They are learned again when somebody comes from there.
            foreach (var (town, _) in learned)
            {
                if (_known.TryRemove(town, out bool _))
                {
                    Interlocked.Decrement(ref _count);
                }
            }

            throw;
        }
    }

    /// <summary>Where towns of a country lie.</summary>
    /// <param name="database">Where to read.</param>
    /// <param name="country">ISO 3166-1 alpha-2.</param>
    /// <param name="towns">The names of towns; regions may have towns of the same name.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task<Dictionary<Whereabouts, GeoPoint>> ReadAsync(
        NpgsqlDataSource database,
        string country,
        IReadOnlyCollection<string> towns,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand(
            "select region, town, latitude, longitude from town_point where country = $1 and town = any($2)"
        );
        command.Parameters.Add(new() { Value = country });
        command.Parameters.Add(new() { Value = towns.ToArray() });
        var found = new Dictionary<Whereabouts, GeoPoint>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found[new Whereabouts(country, reader.GetString(0), reader.GetString(1))] = new GeoPoint(
                reader.GetDouble(2),
                reader.GetDouble(3)
            );
        }

        return found;
    }
}
