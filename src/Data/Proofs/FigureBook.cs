using System.IO.Hashing;
using System.Text;
using System.Text.Json;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs.Reconciling;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Keeps figures of other systems as their files say them.</summary>
public sealed class FigureBook(NpgsqlDataSource database)
{
    /// <summary>Rows stored at a time; progress is told after each.</summary>
    public const int Step = 5_000;

    private const int MostListed = 100;

    /// <summary>An import that has not moved for so long was broken off.</summary>
    private static readonly TimeSpan Dead = TimeSpan.FromMinutes(5);

    /// <summary>The imports of a workspace, the newest first, at most 100; those that go on too.</summary>
    public async Task<List<FigureImport>> ListAsync(Guid workspaceId, DateTimeOffset now, CancellationToken cancel)
    {
        await using var command = database.Command(
            """
            select id, system, name, lines, done, kept, skipped, first_day, last_day, made_at, made_by, finished_at, undone_at, undone_by
            from figure_import where workspace_id = $1 and (finished_at is not null or beat_at > $3) order by number desc limit $2
            """,
            workspaceId,
            MostListed,
            (now - Dead).ToUniversalTime()
        );
        var imports = new List<FigureImport>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            imports.Add(
                new FigureImport(
                    reader.GetGuid(0),
                    reader.GetString(1),
                    reader.GetString(2),
                    reader.GetInt32(3),
                    reader.GetInt32(4),
                    reader.GetInt32(5),
                    JsonSerializer.Deserialize<Dictionary<ImportProblem, int>>(reader.GetString(6))!,
                    await ValueAsync<DateOnly>(reader, 7, cancel),
                    await ValueAsync<DateOnly>(reader, 8, cancel),
                    reader.GetFieldValue<DateTimeOffset>(9),
                    reader.GetString(10),
                    await ValueAsync<DateTimeOffset>(reader, 11, cancel),
                    await ValueAsync<DateTimeOffset>(reader, 12, cancel),
                    reader.IsDBNull(13) ? null : reader.GetString(13)
                )
            );
        }

        return imports;
    }

    /// <summary>Says that an import begins, so that others see it; what was broken off goes.</summary>
    public async Task BeginAsync(Guid workspaceId, FigureImport import, FigureRecipe recipe, CancellationToken cancel)
    {
        await database.RunAsync(
            "delete from figure_import where workspace_id = $1 and finished_at is null and beat_at < $2",
            cancel,
            workspaceId,
            (import.MadeAt - Dead).ToUniversalTime()
        );
        await database.RunAsync(
            """
            insert into figure_import (id, workspace_id, system, name, recipe, lines, made_at, made_by, beat_at)
            values ($1, $2, $3, $4, $5::jsonb, $6, $7, $8, $7)
            """,
            cancel,
            import.Id,
            workspaceId,
            import.System,
            import.Name,
            JsonSerializer.Serialize(recipe, JsonSerializerOptions.Web),
            import.Lines,
            import.MadeAt.ToUniversalTime(),
            import.MadeBy
        );
    }

    /// <summary>Keeps all figures of an import that was begun, or nothing of it; tells others how far it is.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="import">The import.</param>
    /// <param name="figures">One for each target and day.</param>
    /// <param name="clock">Says when it moved.</param>
    /// <param name="cancel">Gives up; nothing is kept then.</param>
    public async Task StoreAsync(
        Guid workspaceId,
        FigureImport import,
        IReadOnlyList<FigureOfDay> figures,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        try
        {
            await using var connection = await database.OpenConnectionAsync(cancel);
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            int done = 0;
            foreach (var some in figures.Chunk(Step))
            {
                var ids = await SubjectIdsAsync(connection, workspaceId, import.System, some, cancel);
                await CopyAsync(connection, workspaceId, import.Id, some, ids, cancel);
                done += some.Sum(f => f.Rows);
                await database.RunAsync(
                    "update figure_import set done = $2, beat_at = $3 where id = $1",
                    cancel,
                    import.Id,
                    done,
                    clock.GetUtcNow().ToUniversalTime()
                );
            }

            await transaction.CommitAsync(cancel);
            await database.RunAsync(
                """
                update figure_import set done = lines, kept = $2, skipped = $3::jsonb, first_day = $4, last_day = $5, finished_at = $6 where id = $1
                """,
                cancel,
                import.Id,
                import.Kept,
                JsonSerializer.Serialize(import.Skipped),
                import.FirstDay,
                import.LastDay,
                clock.GetUtcNow().ToUniversalTime()
            );
        }
        catch
        {
            await database.RunAsync("delete from figure_import where id = $1", CancellationToken.None, import.Id);
            throw;
        }
    }

    /// <summary>Takes the figures of an import out, or puts them back; what it replaced counts again meanwhile.</summary>
    /// <returns>False where the workspace has no such import.</returns>
    public async Task<bool> UndoAsync(Guid workspaceId, Guid id, bool undo, DateTimeOffset now, string who, CancellationToken cancel) =>
        await database.RunAsync(
            """
            update figure_import set undone_at = case when $3 then coalesce(undone_at, $4) end, undone_by = case when $3 then coalesce(undone_by, $5) end
            where workspace_id = $1 and id = $2 and finished_at is not null
            """,
            cancel,
            workspaceId,
            id,
            undo,
            now.ToUniversalTime(),
            who
        ) > 0;

    /// <summary>The last day another system has figures of; null without any.</summary>
    public async Task<DateOnly?> LastDayAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.Command(
            "select max(last_day) from figure_import where workspace_id = $1 and finished_at is not null and undone_at is null",
            workspaceId
        );
        return await command.ExecuteScalarAsync(cancel) is DateOnly day ? day : null;
    }

    /// <summary>What other systems count in a range, of each day the newest import that was not undone.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="from">First day, in the workspace's zone.</param>
    /// <param name="to">Last day.</param>
    /// <param name="kinds">Only what says one of these; null for all.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<ReadFigures> ReadAsync(
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        IReadOnlyCollection<FigureKind>? kinds,
        CancellationToken cancel
    )
    {
        var figures = new List<(int Subject, DateOnly Day, OtherFigures Figures)>();
        await using (
            var command = database.Command(
                $"""
                select f.subject_id, f.day, f.shown, f.sent, f.delivered, f.opened, f.clicks, f.visits, f.conversions
                from (
                    select i.*, rank() over (partition by i.day, i.subject_id order by m.number desc) as newest
                    from imported_figure i join figure_import m on m.id = i.import_id and m.undone_at is null and m.finished_at is not null
                    where i.workspace_id = $1 and i.day between $2 and $3
                ) f
                where f.newest = 1 and coalesce({(
                    kinds is null ? "1" : string.Join(", ", kinds.Select(ColumnOf))
                )}) is not null
                """,
                workspaceId,
                from,
                to
            )
        )
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                figures.Add(
                    (
                        reader.GetInt32(0),
                        reader.GetFieldValue<DateOnly>(1),
                        new OtherFigures(
                            CountAt(reader, 2),
                            CountAt(reader, 3),
                            CountAt(reader, 4),
                            CountAt(reader, 5),
                            CountAt(reader, 6),
                            CountAt(reader, 7),
                            reader.IsDBNull(8) ? null : reader.GetDecimal(8)
                        )
                    )
                );
            }
        }

        return new ReadFigures(figures, await SubjectsAsync(workspaceId, [.. figures.Select(f => f.Subject).Distinct()], cancel));
    }

    private static async Task<Dictionary<Guid, int>> SubjectIdsAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        string system,
        FigureOfDay[] figures,
        CancellationToken cancel
    )
    {
        var targets = figures.Select(f => f.Target).DistinctBy(t => KeyOf(system, t)).ToList();
        await using var command = connection.Command(
            """
            with given as (
                select * from unnest($3, $4, $5, $6, $7::text[]) g(key, link, campaign, placement, said)
            ), made as (
                insert into figure_subject (workspace_id, key, system, link, campaign, placement, values)
                select $1, key, $2, link, campaign, placement, said::jsonb from given order by key
                on conflict (workspace_id, key) do update set key = excluded.key
                returning key, id
            )
            select key, id from made
            """,
            workspaceId,
            system,
            targets.Select(t => KeyOf(system, t)).ToArray(),
            targets.Select(t => t.Link).ToArray(),
            targets.Select(t => t.Campaign).ToArray(),
            targets.Select(t => t.Placement).ToArray(),
            targets.Select(t => JsonSerializer.Serialize(InOrder(t.Values))).ToArray()
        );
        var ids = new Dictionary<Guid, int>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            ids[reader.GetGuid(0)] = reader.GetInt32(1);
        }

        return figures.Select(f => KeyOf(system, f.Target)).Distinct().ToDictionary(k => k, k => ids[k]);
    }

    private static async Task CopyAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        Guid import,
        FigureOfDay[] figures,
        Dictionary<Guid, int> ids,
        CancellationToken cancel
    )
    {
        string system = figures[0].System;
        await using var copy = await connection.BeginBinaryImportAsync(
            """
            copy imported_figure (workspace_id, import_id, subject_id, day, shown, sent, delivered, opened, clicks, visits, conversions)
            from stdin (format binary)
            """,
            cancel
        );
        foreach (var figure in figures)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(workspaceId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(import, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(ids[KeyOf(system, figure.Target)], NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(figure.Day, NpgsqlDbType.Date, cancel);
            var f = figure.Figures;
            foreach (long? count in new[] { f.Shown, f.Sent, f.Delivered, f.Opened, f.Clicks, f.Visits })
            {
                if (count is { } known)
                {
                    await copy.WriteAsync(known, NpgsqlDbType.Bigint, cancel);
                }
                else
                {
                    await copy.WriteNullAsync(cancel);
                }
            }

            if (f.Conversions is { } conversions)
            {
                await copy.WriteAsync(conversions, NpgsqlDbType.Numeric, cancel);
            }
            else
            {
                await copy.WriteNullAsync(cancel);
            }
        }

        await copy.CompleteAsync(cancel);
    }

    private async Task<IReadOnlyDictionary<int, FigureSubject>> SubjectsAsync(Guid workspaceId, int[] ids, CancellationToken cancel)
    {
        var subjects = new Dictionary<int, FigureSubject>();
        await using var command = database.Command(
            "select id, system, link, campaign, placement, values from figure_subject where workspace_id = $1 and id = any($2)",
            workspaceId,
            ids
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            subjects[reader.GetInt32(0)] = new FigureSubject(
                reader.GetString(1),
                new NamedTarget(
                    reader.GetString(2),
                    reader.GetString(3),
                    reader.GetString(4),
                    JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(5)) ?? []
                )
            );
        }

        return subjects;
    }

    private static string ColumnOf(FigureKind kind) =>
        kind switch
        {
            FigureKind.Shown => "f.shown",
            FigureKind.Sent => "f.sent",
            FigureKind.Delivered => "f.delivered",
            FigureKind.Opened => "f.opened",
            FigureKind.Clicks => "f.clicks",
            FigureKind.Visits => "f.visits",
            _ => "f.conversions",
        };

    private static Guid KeyOf(string system, NamedTarget target) =>
        new(XxHash128.Hash(Encoding.UTF8.GetBytes($"{system}\u001f{target.Key}")));

    private static Dictionary<string, string> InOrder(IReadOnlyDictionary<string, string> values) =>
        values.OrderBy(v => v.Key, StringComparer.Ordinal).ToDictionary();

    private static long? CountAt(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetInt64(column);

    private static async Task<T?> ValueAsync<T>(NpgsqlDataReader reader, int column, CancellationToken cancel)
        where T : struct => await reader.IsDBNullAsync(column, cancel) ? null : await reader.GetFieldValueAsync<T>(column, cancel);
}

/// <summary>What another system counts of a target on a day.</summary>
/// <param name="Rows">Rows of the file it is the sum of.</param>
public sealed record FigureOfDay(string System, NamedTarget Target, DateOnly Day, OtherFigures Figures, int Rows);

/// <summary>What figures are about, as a system calls it.</summary>
public sealed record FigureSubject(string System, NamedTarget Target);

/// <summary>What other systems count.</summary>
/// <param name="Figures">By subject and day.</param>
/// <param name="Subjects">What they are about, by number.</param>
public sealed record ReadFigures(
    IReadOnlyList<(int Subject, DateOnly Day, OtherFigures Figures)> Figures,
    IReadOnlyDictionary<int, FigureSubject> Subjects
);
