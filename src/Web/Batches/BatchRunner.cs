using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>
/// Runs a batch in steps of a thousand rows, each in one transaction with the run's progress: after a restart it goes on
/// where it was, and no row is made twice.
/// </summary>
public sealed class BatchRunner(
    BeaconDb db,
    BatchRows rows,
    BatchComposer composer,
    LinkWriter writer,
    AuditLog auditLog,
    TimeProvider clock
)
{
    private const int AtOnce = 1_000;

    /// <summary>Begins a run; the host does the work.</summary>
    public async Task<Outcome<BatchRun>> BeginAsync(Guid batchId, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Two people who start the same batch at one moment wait for each other here.
        await RowLock.BatchAsync(db, batchId, cancel);
        var batch = await db.Batches.Where(b => b.Id == batchId).Select(b => new { b.Recipe, b.Total }).SingleOrDefaultAsync(cancel);
        if (batch is null)
        {
            return Refusal.NotFound("batch");
        }

        var newest = await db.BatchRuns.Where(r => r.BatchId == batchId).OrderByDescending(r => r.Number).FirstOrDefaultAsync(cancel);
        if (newest?.State == BatchState.Running)
        {
            return Refusal.Conflict("batch-runs", "This batch is running already; wait for it, or cancel it.");
        }

        if (BatchStore.RecipeOf(batch.Recipe).Destination is null)
        {
            return Refusal.Unacceptable("recipe-incomplete", "The recipe does not say which column has the pages; choose it first.");
        }

        var run = new BatchRun
        {
            BatchId = batchId,
            Number = (newest?.Number ?? 0) + 1,
            Recipe = batch.Recipe,
            State = BatchState.Running,
            Total = batch.Total,
            StartedBy = auditLog.Who,
            StartedAt = clock.GetUtcNow(),
        };
        db.BatchRuns.Add(run);
        auditLog.Add("batch-run", batchId, null, new { run.Number, batch.Recipe });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return run;
    }

    /// <summary>Stops a run after the step it is at.</summary>
    /// <returns>False when there is no such batch.</returns>
    public async Task<bool> CancelAsync(Guid batchId, CancellationToken cancel)
    {
        if (!await db.Batches.AnyAsync(b => b.Id == batchId, cancel))
        {
            return false;
        }

        var now = clock.GetUtcNow();
        await db
            .BatchRuns.Where(r => r.BatchId == batchId && r.State == BatchState.Running)
            .ExecuteUpdateAsync(r => r.SetProperty(x => x.State, BatchState.Cancelled).SetProperty(x => x.EndedAt, now), cancel);
        return true;
    }

    /// <summary>Works the next rows of a run through.</summary>
    /// <returns>True while there is more to do.</returns>
    public async Task<bool> StepAsync(Guid runId, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var run = await RowLock.BatchRunAsync(db, runId, cancel);
        if (run.State != BatchState.Running)
        {
            return false;
        }

        var headings = await db.Batches.Where(b => b.Id == run.BatchId).Select(b => b.Headings).SingleAsync(cancel);
        var recipe = BatchStore.RecipeOf(run.Recipe);
        var some = await rows.ReadAsync(run.BatchId, run.Done, AtOnce, cancel);
        var worked = await composer.WorkAsync(recipe, new Table(headings, []), some, cancel);
        var toMake = worked.Where(w => w.Outcome is RowOutcome.New or RowOutcome.Changed).ToList();
        var stored =
            toMake.Count == 0
                ? new Dictionary<int, Guid>()
                : await writer.SaveQuietlyAsync([.. toMake.Select(w => w.Worked!)], run.StartedBy, cancel);

        // Rows choose neither slug nor domain nor ending, which is all that can be refused here.
        var saved = stored.IsRefused ? throw new InvalidOperationException(stored.Refusal.Message) : stored.Value;
        db.ChangeTracker.Clear();

        var results = new List<RowResult>(worked.Count);
        int made = 0;
        foreach (var row in worked)
        {
            results.Add(
                row.Outcome switch
                {
                    RowOutcome.New or RowOutcome.Changed => row.Result(row.Worked!.Composed.Tagged!.Url, saved[made++], run.Number),
                    RowOutcome.Existing => row.Result(row.Worked!.Composed.Tagged!.Url, row.Worked.Existing!.Id, run.Number),
                    _ => row.Result(),
                }
            );
        }

        await rows.KeepAsync(run.BatchId, results, cancel, (NpgsqlConnection)transaction.GetDbTransaction().Connection!);
        bool more = some.Count == AtOnce;
        int done = some.Count == 0 ? run.Total : some[^1].Number;
        int Count(string outcome) => worked.Count(w => w.Outcome == outcome);
        var (madeNow, used, changed, unchanged, stopped) = (
            Count(RowOutcome.New),
            Count(RowOutcome.Existing),
            Count(RowOutcome.Changed),
            Count(RowOutcome.Unchanged),
            Count(RowOutcome.Stopped)
        );
        var (reached, state) = more ? (done, BatchState.Running) : (run.Total, BatchState.Finished);
        var ended = more ? (DateTimeOffset?)null : clock.GetUtcNow();
        await db
            .BatchRuns.Where(r => r.Id == runId)
            .ExecuteUpdateAsync(
                r =>
                    r.SetProperty(x => x.Done, reached)
                        .SetProperty(x => x.Made, x => x.Made + madeNow)
                        .SetProperty(x => x.Used, x => x.Used + used)
                        .SetProperty(x => x.Changed, x => x.Changed + changed)
                        .SetProperty(x => x.Unchanged, x => x.Unchanged + unchanged)
                        .SetProperty(x => x.Stopped, x => x.Stopped + stopped)
                        .SetProperty(x => x.State, state)
                        .SetProperty(x => x.EndedAt, ended),
                cancel
            );
        await transaction.CommitAsync(cancel);
        return more;
    }
}
