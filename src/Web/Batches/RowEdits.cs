using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>Values typed for single rows of a sheet, one or many at once; every edit can be taken back and put again.</summary>
public sealed class RowEdits(
    BeaconDb db,
    BatchRows rows,
    ConventionReader conventions,
    BatchComposer composer,
    AuditLog auditLog,
    TimeProvider clock
)
{
    private const int MostRows = 5_000;
    private const int LongestValue = 8_000;
    private const int LongestSays = 120;
    private const int Looked = 1_000;
    private const int MostEdits = 200;

    /// <summary>Types values into rows.</summary>
    public async Task<Outcome<EditAnswer>> TypeAsync(Guid id, OverrideChange change, CancellationToken cancel)
    {
        var asked = change.Rows ?? [];
        if (
            asked.Count is 0 or > MostRows
            || asked.Any(r => r?.Values is null || r.Values.Values.Any(v => v?.Length > LongestValue))
            || asked.DistinctBy(r => r.Number).Count() != asked.Count
        )
        {
            return Refusal.Invalid(
                "overrides-refused",
                $"Type into 1 to {MostRows:N0} rows at once, each row once, at most {LongestValue:N0} characters each."
            );
        }

        var convention = await conventions.ReadAsync(cancel);
        var typed = new List<TypedRow>(asked.Count);
        foreach (var row in asked)
        {
            var values = new Dictionary<string, string?>();
            foreach (var (name, value) in row.Values!)
            {
                string? key = name is "destination" or "placement" or "campaign" or RowRequest.TitleName
                    ? name
                    : convention.Find(name)?.Key;
                if (key is null)
                {
                    return Refusal.Invalid("field-unknown", $"The convention has no field “{name}”.");
                }

                values[key] = value?.Replace("\0", "", StringComparison.Ordinal); // PostgreSQL keeps no zero character
            }

            typed.Add(new TypedRow(row.Number, values));
        }

        string says =
            change.Says is { Length: > 0 and <= LongestSays } given ? given
            : typed.Count == 1 ? $"typing in row {typed[0].Number}"
            : $"typing in {typed.Count:N0} rows";
        return await KeepAsync(id, typed, says, cancel);
    }

    /// <summary>
    /// The repair a notice offers, for every row with the same notice: the same value for a field; for the page, which is
    /// each row's own, the repair each row's notice offers.
    /// </summary>
    public async Task<Outcome<EditAnswer>> RepairAsync(Guid id, RepairChange change, CancellationToken cancel)
    {
        var batch = await db
            .Batches.AsNoTracking()
            .Where(b => b.Id == id)
            .Select(b => new { b.Recipe, b.Headings })
            .SingleOrDefaultAsync(cancel);
        if (batch is null)
        {
            return Refusal.NotFound("batch");
        }

        // Notes are not kept with rows; for them every row is looked at.
        string? counted = NoticeRules.All.Any(r => r.Name == change.Rule && r.Severity != Severity.Info) ? change.Rule : null;
        var recipe = BatchStore.RecipeOf(batch.Recipe);
        var headings = new Table(batch.Headings, []);
        var typed = new List<TypedRow>();
        int after = 0;
        while (await rows.MaybeAsync(id, counted, after, Looked, cancel) is { Count: > 0 } some)
        {
            foreach (var row in await composer.WorkAsync(recipe, headings, some, cancel))
            {
                var repair = (row.Worked?.Composed.Notices ?? [])
                    .FirstOrDefault(n =>
                        n.Rule == change.Rule
                        && n.Repair is { } r
                        && r.Field == change.Field
                        && (change.Field is null || r.Value == change.Value)
                    )
                    ?.Repair;
                if (repair is not null)
                {
                    typed.Add(new TypedRow(row.Row.Number, new() { [repair.Field ?? "destination"] = repair.Value }));
                }
            }

            after = some[^1].Number;
        }

        return typed.Count == 0
            ? Refusal.Conflict("nothing-alike", "No row has this notice with this repair any more; run the preview again.")
            : await KeepAsync(id, typed, $"repairing {typed.Count:N0} {(typed.Count == 1 ? "row" : "rows")}", cancel);
    }

    /// <summary>Takes the newest edit back, or puts the one taken back last.</summary>
    public async Task<Outcome<EditAnswer>> StepAsync(Guid id, bool back, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await LockAsync(id, cancel) is { } refusal)
        {
            return refusal;
        }

        var edits = db.SheetEdits.Where(e => e.BatchId == id && e.TakenBack == !back);
        var edit = await (back ? edits.OrderByDescending(e => e.Number) : edits.OrderBy(e => e.Number)).FirstOrDefaultAsync(cancel);
        if (edit is null)
        {
            return Refusal.Conflict("nothing-to-undo", back ? "Nothing to undo." : "Nothing to redo.");
        }

        var typed = JsonSerializer.Deserialize<List<TypedRow>>(back ? edit.Before : edit.After, JsonSerializerOptions.Default)!;
        await BatchRows.TypeAsync(id, typed, (NpgsqlConnection)db.Database.GetDbConnection(), cancel);
        edit.TakenBack = back;
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new EditAnswer(typed.Count, edit.Says);
    }

    private async Task<Outcome<EditAnswer>> KeepAsync(Guid id, List<TypedRow> typed, string says, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await LockAsync(id, cancel) is { } refusal)
        {
            return refusal;
        }

        var before = await BatchRows.TypeAsync(id, typed, (NpgsqlConnection)db.Database.GetDbConnection(), cancel);
        if (before.Count < typed.Count)
        {
            return Refusal.Invalid("row-unknown", "The sheet has no such row; nothing was typed.");
        }

        // What was taken back before this edit can't be put again after it.
        await db.SheetEdits.Where(e => e.BatchId == id && e.TakenBack).ExecuteDeleteAsync(cancel);
        int number = (await db.SheetEdits.Where(e => e.BatchId == id).MaxAsync(e => (int?)e.Number, cancel) ?? 0) + 1;
        int oldest = number - MostEdits;
        await db.SheetEdits.Where(e => e.BatchId == id && e.Number <= oldest).ExecuteDeleteAsync(cancel);
        db.SheetEdits.Add(
            new SheetEdit
            {
                BatchId = id,
                Number = number,
                Says = says,
                Before = JsonSerializer.Serialize(before, JsonSerializerOptions.Default),
                After = JsonSerializer.Serialize(typed, JsonSerializerOptions.Default),
                By = auditLog.Who,
                At = clock.GetUtcNow(),
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new EditAnswer(typed.Count, says);
    }

    /// <summary>Edits of one sheet follow each other; a sheet that runs is not typed into, so that a run makes what was counted.</summary>
    private async Task<Refusal?> LockAsync(Guid id, CancellationToken cancel)
    {
        if (!await db.Batches.AnyAsync(b => b.Id == id, cancel))
        {
            return Refusal.NotFound("batch");
        }

        await RowLock.BatchAsync(db, id, cancel);
        return await db.BatchRuns.AnyAsync(r => r.BatchId == id && r.State == BatchState.Running, cancel)
            ? Refusal.Conflict("batch-runs", "This batch is running; edit when it has finished, or cancel it.")
            : null;
    }
}
