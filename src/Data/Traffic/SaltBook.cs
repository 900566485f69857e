using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Security.Cryptography;
using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.AccessLogs;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// The day salts of visitor hashes, for every workspace. They live in the database, where all processes share them; a
/// day's salt is destroyed half an hour after its day has ended.
/// </summary>
public sealed class SaltBook(NpgsqlDataSource database, TimeProvider clock)
{
    /// <summary>How long yesterday's salt is kept, so that an open visit goes on over midnight.</summary>
    public static readonly TimeSpan KeptAfterMidnight = VisitRules.Gap;

    private FrozenDictionary<Guid, TimeZoneInfo> _zones = FrozenDictionary<Guid, TimeZoneInfo>.Empty;
    private readonly ConcurrentDictionary<(Guid Workspace, DateOnly Day), byte[]> _salts = new();
    private readonly ConcurrentDictionary<Guid, SaltDay> _today = new();

    /// <summary>The salts that hold at a moment: today's, and yesterday's in the first half hour of a day.</summary>
    public SaltDay At(Guid workspaceId, DateTimeOffset now)
    {
        if (_today.TryGetValue(workspaceId, out var day) && now >= day.From && now < day.Until)
        {
            return day;
        }

        return _today[workspaceId] = Make(workspaceId, now);
    }

    /// <summary>Shares salts with the other processes through the database, makes tomorrow's, and destroys what has had its day.</summary>
    public async Task RefreshAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        var zones = new Dictionary<Guid, TimeZoneInfo>();
        await using (var command = new NpgsqlCommand("select id, time_zone from workspaces", connection))
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                zones[reader.GetGuid(0)] = TimeZoneInfo.FindSystemTimeZoneById(reader.GetString(1));
            }
        }

        _zones = zones.ToFrozenDictionary();
        var now = clock.GetUtcNow();
        foreach (var (workspace, zone) in zones)
        {
            var today = DayIn(zone, now);
            foreach (var day in new[] { today, today.AddDays(1) })
            {
                await ShareAsync(connection, workspace, day, cancel);
            }

            var oldest = DayIn(zone, now - KeptAfterMidnight);
            if (oldest < today && await ReadAsync(connection, workspace, oldest, cancel) is { } yesterday)
            {
                _salts[(workspace, oldest)] = yesterday;
            }

            await DestroyBeforeAsync(connection, workspace, oldest, cancel);
        }

        await LogSalts.DestroyOldAsync(connection, now, cancel);
        _today.Clear();
    }

    private SaltDay Make(Guid workspaceId, DateTimeOffset now)
    {
        var zone = _zones.GetValueOrDefault(workspaceId, TimeZoneInfo.Utc);
        var today = DayIn(zone, now);
        var midnight = StartOf(zone, today);
        byte[] salt = SaltOf(workspaceId, today);
        bool early = now < midnight + KeptAfterMidnight;
        byte[]? yesterday = early ? _salts.GetValueOrDefault((workspaceId, today.AddDays(-1))) : null;
        return new SaltDay(today, midnight, early ? midnight + KeptAfterMidnight : StartOf(zone, today.AddDays(1)), salt, yesterday);
    }

    /// <summary>
    /// Takes the salt all processes agree on: the first one stored. One made here while the database was away, or before a new workspace
    /// was first seen here, is offered first.
    /// </summary>
    private async Task ShareAsync(NpgsqlConnection connection, Guid workspace, DateOnly day, CancellationToken cancel)
    {
        byte[] own = SaltOf(workspace, day);
        await using (
            var insert = new NpgsqlCommand(
                "insert into salt (workspace_id, day, salt) values ($1, $2, $3) on conflict do nothing",
                connection
            )
        )
        {
            insert.Parameters.Add(new() { Value = workspace });
            insert.Parameters.Add(new() { Value = day });
            insert.Parameters.Add(new() { Value = own });
            await insert.ExecuteNonQueryAsync(cancel);
        }

        if (await ReadAsync(connection, workspace, day, cancel) is { } shared)
        {
            _salts[(workspace, day)] = shared;
        }
    }

    /// <summary>The salt of a day, made once, however many ask for it at the same moment.</summary>
    private byte[] SaltOf(Guid workspace, DateOnly day) =>
        _salts.GetOrAdd((workspace, day), static _ => RandomNumberGenerator.GetBytes(VisitorHash.SaltLength));

    private static async Task<byte[]?> ReadAsync(NpgsqlConnection connection, Guid workspace, DateOnly day, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select salt from salt where workspace_id = $1 and day = $2", connection);
        command.Parameters.Add(new() { Value = workspace });
        command.Parameters.Add(new() { Value = day });
        return (byte[]?)await command.ExecuteScalarAsync(cancel);
    }

    private async Task DestroyBeforeAsync(NpgsqlConnection connection, Guid workspace, DateOnly oldest, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("delete from salt where workspace_id = $1 and day < $2", connection);
        command.Parameters.Add(new() { Value = workspace });
        command.Parameters.Add(new() { Value = oldest });
        await command.ExecuteNonQueryAsync(cancel);
        foreach (var key in _salts.Keys.Where(k => k.Workspace == workspace && k.Day < oldest))
        {
            _salts.TryRemove(key, out _);
        }
    }

    private static DateOnly DayIn(TimeZoneInfo zone, DateTimeOffset at) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, zone).DateTime);

    /// <summary>The first moment of a day; where a clock change skips midnight, the first one there is.</summary>
    private static DateTimeOffset StartOf(TimeZoneInfo zone, DateOnly day)
    {
        var midnight = day.ToDateTime(TimeOnly.MinValue);
        while (zone.IsInvalidTime(midnight))
        {
            midnight = midnight.AddMinutes(15);
        }

        return new DateTimeOffset(midnight, zone.GetUtcOffset(midnight));
    }
}

/// <summary>The salts that hold over a stretch of time.</summary>
/// <param name="From">Its first moment.</param>
/// <param name="Until">The first moment after it.</param>
/// <param name="Salt">Today's salt.</param>
/// <param name="Yesterday">Yesterday's, in the first half hour of a day.</param>
public sealed record SaltDay(DateOnly Day, DateTimeOffset From, DateTimeOffset Until, byte[] Salt, byte[]? Yesterday);
