using System.Diagnostics;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Core.Traffic.AccessLogs;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Data.AccessLogs;

/// <summary>
/// Reads an access log a batch at a time. What a batch brought and how far the file is read stand in one transaction, so that nothing is
/// lost or doubled whichever side dies. Goes no faster than visits are worked out, and behind whatever arrives meanwhile.
/// </summary>
/// <param name="path">The file.</param>
/// <param name="readingId">Its <see cref="LogReading"/>.</param>
/// <param name="workspaceId">The reading's workspace.</param>
/// <param name="database">The database.</param>
/// <param name="ids">Makes the events' ids.</param>
/// <param name="countries">Where addresses are.</param>
/// <param name="points">Learns where towns lie.</param>
/// <param name="clock">The time.</param>
public sealed class AccessLogReader(
    string path,
    Guid readingId,
    Guid workspaceId,
    NpgsqlDataSource database,
    EventIds ids,
    Countries countries,
    TownPoints points,
    TimeProvider clock
) : IDisposable
{
    /// <summary>A packed log may be longer than it looks.</summary>
    public const long LongestText = 16L << 30;

    private const int MostViews = 10_000;
    private const int MostLines = 100_000;

    /// <summary>So many lines in another format, and nothing else, at the beginning of a file: it is no log.</summary>
    private const int LinesTried = 1_000;

    /// <summary>A server's clock may be a little ahead.</summary>
    private static readonly TimeSpan AheadAtMost = TimeSpan.FromMinutes(10);

    private static readonly TimeSpan LongestBatch = TimeSpan.FromSeconds(1);

    private readonly RawEventWriter _writer = new();
    private readonly Dictionary<DateOnly, bool> _measured = [];
    private AccessLogFile? _file;

    /// <summary>Reads a batch.</summary>
    /// <returns>Whether there is more to read.</returns>
    /// <exception cref="IOException">Somebody else reads the file.</exception>
    public async Task<bool> StepAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (await LockAsync(connection, cancel) is not { } reading)
        {
            return false;
        }

        if (await SiteAsync(connection, reading, cancel) is not { } site)
        {
            return await EndAsync(connection, transaction, LogReadingState.Failed, LogReadingFault.SiteGone, cancel);
        }

        var batch = new LogBatch(site);
        LogReadingFault? fault;
        bool more;
        try
        {
            (more, fault) = Read(batch, reading);
        }
        catch (FileNotFoundException)
        {
            return await EndAsync(connection, transaction, LogReadingState.Failed, LogReadingFault.FileGone, cancel);
        }

        await StoreAsync(connection, batch, reading, site, cancel);
        var state =
            fault is not null ? LogReadingState.Failed
            : more ? LogReadingState.Reading
            : LogReadingState.Read;
        return await EndAsync(connection, transaction, state, fault, cancel);
    }

    public void Dispose() => _file?.Dispose();

    private (bool More, LogReadingFault? Fault) Read(LogBatch batch, Reading reading)
    {
        long began = Stopwatch.GetTimestamp();
        try
        {
            _file ??= AccessLogFile.Open(path, reading.Position);
            while (batch.Views.Count < MostViews && batch.Lines < MostLines && Stopwatch.GetElapsedTime(began) < LongestBatch)
            {
                if (!_file.TryReadLine(out var line))
                {
                    return (false, IsNoLog(batch, reading) ? LogReadingFault.NotCombined : null);
                }

                batch.Add(line);
                if (batch.Lines == LinesTried && IsNoLog(batch, reading))
                {
                    return (false, LogReadingFault.NotCombined);
                }
            }

            return _file.Position > LongestText ? (false, LogReadingFault.TooLongUnpacked) : (true, null);
        }
        catch (InvalidDataException)
        {
            return (false, LogReadingFault.BrokenArchive);
        }
    }

    private static bool IsNoLog(LogBatch batch, Reading reading) => reading.Position == 0 && batch.Unreadable == batch.Lines;

    private async Task StoreAsync(NpgsqlConnection connection, LogBatch batch, Reading reading, LogSite site, CancellationToken cancel)
    {
        var views = batch.Views;
        if (reading.LeavesMeasuredDays)
        {
            var measured = await MeasuredAsync(connection, reading.SiteId, site.Rules, [.. views.Select(v => v.Day).Distinct()], cancel);
            int all = views.Count;
            views = [.. views.Where(v => !measured.Contains(v.Day))];
            batch.Skip(LogLineSkip.MeasuredAlready, all - views.Count);
        }

        var times = new Dictionary<(DateOnly, long), int>();
        foreach (var view in views)
        {
            times[(view.Day, view.Fingerprint)] = times.GetValueOrDefault((view.Day, view.Fingerprint)) + 1;
        }

        var left = await LogLineBook.TakeUpAsync(connection, workspaceId, readingId, times, cancel);
        var fresh = new List<LogView>(views.Count);
        foreach (var view in views)
        {
            if (left.GetValueOrDefault((view.Day, view.Fingerprint)) is > 0 and var more)
            {
                left[(view.Day, view.Fingerprint)] = more - 1;
                fresh.Add(view);
            }
        }

        batch.Skip(LogLineSkip.AlreadyRead, views.Count - fresh.Count);
        var events = new RawEvents();
        events.PageEvents.AddRange(await EventsAsync(connection, reading.SiteId, fresh, site.Rules, cancel));
        await _writer.WriteAsync(connection, events, cancel, later: true);
        await ProgressAsync(connection, batch, fresh, cancel);
        await TrafficNotices.TellMovedAsync(connection, cancel);
    }

    private async Task<List<RawPageEvent>> EventsAsync(
        NpgsqlConnection connection,
        Guid siteId,
        List<LogView> views,
        VisitRules rules,
        CancellationToken cancel
    )
    {
        var salts = await LogSalts.OfAsync(
            connection,
            workspaceId,
            [.. views.SelectMany(v => new[] { v.Day, rules.DayOf(v.At - VisitRules.Gap) }).Distinct()],
            clock.GetUtcNow(),
            cancel
        );
        return views.ConvertAll(view =>
        {
            var before = rules.DayOf(view.At - VisitRules.Gap);
            var where = countries.WhereIs(view.Address);
            points.Learn(where, view.Address);
            return new RawPageEvent
            {
                Id = ids.Next(view.At),
                WorkspaceId = workspaceId,
                SiteId = siteId,
                At = view.At,
                Kind = PageEventKind.View,
                Url = view.Url,
                Referrer = view.Referrer,
                Visitor = VisitorHash.OfAddress(salts[view.Day], workspaceId, view.Client, view.UserAgent),
                EarlierVisitor = before == view.Day ? null : VisitorHash.OfAddress(salts[before], workspaceId, view.Client, view.UserAgent),
                UserAgent = view.UserAgent,
                Country = where.Country,
                Region = where.Region,
                City = where.City,
                FromLog = true,
            };
        });
    }

    /// <summary>Those of some days on which the site's pages measured themselves.</summary>
    private async Task<HashSet<DateOnly>> MeasuredAsync(
        NpgsqlConnection connection,
        Guid siteId,
        VisitRules rules,
        List<DateOnly> days,
        CancellationToken cancel
    )
    {
        foreach (var day in days.Where(d => !_measured.ContainsKey(d)))
        {
            await using var command = new NpgsqlCommand(
                """
                select exists (
                    select from page_event where site_id = $1 and not from_log and not verified
                        and at >= $2::timestamp at time zone $3 and at < ($2 + 1)::timestamp at time zone $3
                )
                """,
                connection
            )
            {
                Parameters =
                {
                    new() { Value = siteId },
                    new() { Value = day },
                    new() { Value = rules.Zone.Id },
                },
            };
            _measured[day] = (bool)(await command.ExecuteScalarAsync(cancel))!;
        }

        return [.. days.Where(d => _measured[d])];
    }

    private async Task ProgressAsync(NpgsqlConnection connection, LogBatch batch, List<LogView> kept, CancellationToken cancel)
    {
        var skipped = batch.Skipped.ToDictionary(s => JsonNamingPolicy.CamelCase.ConvertName(s.Why.ToString()), s => s.Lines);
        await using var command = new NpgsqlCommand(
            """
            update log_readings set lines = lines + $2, kept = kept + $3, octets_read = $4, position = $5,
                first_day = least(first_day, $6), last_day = greatest(last_day, $7),
                skipped = (
                    select coalesce(jsonb_object_agg(why, lines), '{}') from (
                        select why, sum(lines::bigint) as lines
                        from (select * from jsonb_each_text(skipped) union all select * from jsonb_each_text($8)) s(why, lines)
                        group by why
                    ) s
                )
            where id = $1
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = readingId },
                new() { Value = (long)batch.Lines },
                new() { Value = (long)kept.Count },
                new() { Value = _file?.OctetsRead ?? 0 },
                new() { Value = _file?.Position ?? 0 },
                new() { Value = kept.Count == 0 ? DBNull.Value : kept.Min(v => v.Day), NpgsqlDbType = NpgsqlDbType.Date },
                new() { Value = kept.Count == 0 ? DBNull.Value : kept.Max(v => v.Day), NpgsqlDbType = NpgsqlDbType.Date },
                new() { Value = JsonSerializer.Serialize(skipped), NpgsqlDbType = NpgsqlDbType.Jsonb },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Whoever cancels it meanwhile waits for the batch under way.</summary>
    private async Task<Reading?> LockAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select site_id, position, leaves_measured_days from log_readings where id = $1 and state = $2 for no key update",
            connection
        )
        {
            Parameters =
            {
                new() { Value = readingId },
                new() { Value = nameof(LogReadingState.Reading) },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel) ? new Reading(reader.GetGuid(0), reader.GetInt64(1), reader.GetBoolean(2)) : null;
    }

    private async Task<LogSite?> SiteAsync(NpgsqlConnection connection, Reading reading, CancellationToken cancel)
    {
        var rules = (await VisitRulesReader.ReadAsync(connection, cancel)).GetValueOrDefault(workspaceId);
        var hosts = new List<(string Host, bool Https)>();
        int months = 0;
        await using (
            var command = new NpgsqlCommand(
                """
                select h.host, h.answers_https, w.raw_months
                from site_hosts h join workspaces w on w.id = h.workspace_id where h.site_id = $1 order by h.id
                """,
                connection
            )
        )
        {
            command.Parameters.Add(new() { Value = reading.SiteId });
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                hosts.Add((reader.GetString(0), reader.GetBoolean(1)));
                months = reader.GetInt32(2);
            }
        }

        if (rules is null || hosts.Count == 0)
        {
            return null;
        }

        var now = clock.GetUtcNow();
        var first = KeptSpan.FirstDay(rules.DayOf(now), months);
        return new LogSite(
            [.. hosts.Select(h => h.Host)],
            hosts[0].Https ? "https" : "http",
            rules.RawFrom is { } from && from > first ? from : first,
            now + AheadAtMost,
            await LogLineBook.KeyAsync(connection, workspaceId, cancel),
            rules
        );
    }

    private async Task<bool> EndAsync(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        LogReadingState state,
        LogReadingFault? fault,
        CancellationToken cancel
    )
    {
        if (state != LogReadingState.Reading)
        {
            await using var command = new NpgsqlCommand(
                "update log_readings set state = $2, fault = $3, ended_at = $4 where id = $1",
                connection
            )
            {
                Parameters =
                {
                    new() { Value = readingId },
                    new() { Value = state.ToString() },
                    new() { Value = (object?)fault?.ToString() ?? DBNull.Value, NpgsqlDbType = NpgsqlDbType.Text },
                    new() { Value = clock.GetUtcNow().ToUniversalTime() },
                },
            };
            await command.ExecuteNonQueryAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
        return state == LogReadingState.Reading;
    }

    private sealed record Reading(Guid SiteId, long Position, bool LeavesMeasuredDays);
}
