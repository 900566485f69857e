using System.IO.Hashing;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Data.Costs;

/// <summary>A file of costs that was imported.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">The file's name.</param>
/// <param name="Lines">Rows read.</param>
/// <param name="Kept">Rows whose costs count.</param>
/// <param name="Skipped">Rows left out, by why.</param>
/// <param name="Totals">Money kept, by ISO 4217 code.</param>
/// <param name="FirstDay">The first day with a cost.</param>
/// <param name="LastDay">The last day with a cost.</param>
/// <param name="MadeAt">When it was imported.</param>
/// <param name="MadeBy">Who did.</param>
/// <param name="UndoneAt">When it was undone; null where it counts.</param>
/// <param name="UndoneBy">Who undid it.</param>
public sealed record CostImport(
    Guid Id,
    string Name,
    int Lines,
    int Kept,
    IReadOnlyDictionary<ImportProblem, int> Skipped,
    IReadOnlyDictionary<string, decimal> Totals,
    DateOnly FirstDay,
    DateOnly LastDay,
    DateTimeOffset MadeAt,
    string MadeBy,
    DateTimeOffset? UndoneAt,
    string? UndoneBy
);

/// <summary>A cost of a day, as a file has it.</summary>
public sealed record CostOfDay(ImportTarget Target, DateOnly Day, string Currency, decimal Amount);

/// <summary>Keeps imported costs, and finds what rows of files mean.</summary>
public sealed class CostImports(NpgsqlDataSource database)
{
    private const int MostListed = 100;

    /// <summary>The imports of a workspace, the newest first, at most 100.</summary>
    public async Task<List<CostImport>> ListAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select id, name, lines, kept, skipped, totals, first_day, last_day, made_at, made_by, undone_at, undone_by
            from cost_import where workspace_id = $1 order by number desc limit $2
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = MostListed });
        var imports = new List<CostImport>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            imports.Add(
                new CostImport(
                    reader.GetGuid(0),
                    reader.GetString(1),
                    reader.GetInt32(2),
                    reader.GetInt32(3),
                    JsonSerializer.Deserialize<Dictionary<ImportProblem, int>>(reader.GetString(4))!,
                    JsonSerializer.Deserialize<Dictionary<string, decimal>>(reader.GetString(5))!,
                    reader.GetFieldValue<DateOnly>(6),
                    reader.GetFieldValue<DateOnly>(7),
                    reader.GetFieldValue<DateTimeOffset>(8),
                    reader.GetString(9),
                    reader.IsDBNull(10) ? null : reader.GetFieldValue<DateTimeOffset>(10),
                    reader.IsDBNull(11) ? null : reader.GetString(11)
                )
            );
        }

        return imports;
    }

    /// <summary>Keeps an import with all of its costs, or nothing of it.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="import">The import.</param>
    /// <param name="recipe">How the file was read.</param>
    /// <param name="costs">One for each target, day and currency.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task AddAsync(
        Guid workspaceId,
        CostImport import,
        CostRecipe recipe,
        IReadOnlyCollection<CostOfDay> costs,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using (
            var command = new NpgsqlCommand(
                """
                insert into cost_import (id, workspace_id, name, recipe, lines, kept, skipped, totals, first_day, last_day, made_at, made_by)
                values ($1, $2, $3, $4::jsonb, $5, $6, $7::jsonb, $8::jsonb, $9, $10, $11, $12)
                """,
                connection
            )
        )
        {
            object[] values =
            [
                import.Id,
                workspaceId,
                import.Name,
                JsonSerializer.Serialize(recipe, JsonSerializerOptions.Web),
                import.Lines,
                import.Kept,
                JsonSerializer.Serialize(import.Skipped),
                JsonSerializer.Serialize(import.Totals),
                import.FirstDay,
                import.LastDay,
                import.MadeAt,
                import.MadeBy,
            ];
            foreach (object value in values)
            {
                command.Parameters.Add(new() { Value = value });
            }

            await command.ExecuteNonQueryAsync(cancel);
        }

        var ids = await TargetIdsAsync(connection, workspaceId, [.. costs.Select(c => c.Target).DistinctBy(t => t.Key)], cancel);
        await using (
            var copy = await connection.BeginBinaryImportAsync(
                "copy imported_cost (workspace_id, import_id, target_id, day, currency, amount) from stdin (format binary)",
                cancel
            )
        )
        {
            foreach (var cost in costs)
            {
                await copy.StartRowAsync(cancel);
                await copy.WriteAsync(workspaceId, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(import.Id, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(ids[KeyOf(cost.Target)], NpgsqlDbType.Integer, cancel);
                await copy.WriteAsync(cost.Day, NpgsqlDbType.Date, cancel);
                await copy.WriteAsync(cost.Currency, NpgsqlDbType.Char, cancel);
                await copy.WriteAsync(cost.Amount, NpgsqlDbType.Numeric, cancel);
            }

            await copy.CompleteAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
    }

    /// <summary>Takes the costs of an import out of all figures, or puts them back; what it replaced counts again meanwhile.</summary>
    /// <returns>False where the workspace has no such import.</returns>
    public async Task<bool> UndoAsync(Guid workspaceId, Guid id, bool undo, DateTimeOffset now, string who, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            update cost_import set undone_at = case when $3 then coalesce(undone_at, $4) end, undone_by = case when $3 then coalesce(undone_by, $5) end
            where workspace_id = $1 and id = $2
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = id });
        command.Parameters.Add(new() { Value = undo });
        command.Parameters.Add(new() { Value = now });
        command.Parameters.Add(new() { Value = who });
        return await command.ExecuteNonQueryAsync(cancel) > 0;
    }

    /// <summary>Gives what was imported for one placement to another, into which it is merged; in the context's transaction.</summary>
    public static Task MoveAsync(BeaconDb db, Guid placement, Guid into, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"update cost_target set placement_id = {into} where workspace_id = {db.CurrentWorkspaceId} and placement_id = {placement}",
            cancel
        );

    private static Guid KeyOf(ImportTarget target) => new(XxHash128.Hash(Encoding.UTF8.GetBytes(target.Key)));

    private static async Task<Dictionary<Guid, int>> TargetIdsAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyList<ImportTarget> targets,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            with given as (
                select * from unnest($2, $3, $4, $5, $6::text[]) g(key, link_id, campaign_id, placement_id, said)
            ), made as (
                insert into cost_target (workspace_id, key, link_id, campaign_id, placement_id, values)
                select $1, key, link_id, campaign_id, placement_id, said::jsonb from given order by key
                on conflict (workspace_id, key) do update set key = excluded.key
                returning key, id
            )
            select key, id from made
            """,
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = targets.Select(KeyOf).ToArray() });
        command.Parameters.Add(new() { Value = targets.Select(t => t.LinkId).ToArray() });
        command.Parameters.Add(new() { Value = targets.Select(t => t.CampaignId).ToArray() });
        command.Parameters.Add(new() { Value = targets.Select(t => t.PlacementId).ToArray() });
        command.Parameters.Add(
            new()
            {
                Value = targets
                    .Select(t => JsonSerializer.Serialize(t.Values.OrderBy(v => v.Key, StringComparer.Ordinal).ToDictionary()))
                    .ToArray(),
            }
        );
        var ids = new Dictionary<Guid, int>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            ids[reader.GetGuid(0)] = reader.GetInt32(1);
        }

        return ids;
    }
}
