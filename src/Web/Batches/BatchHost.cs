using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>
/// Works runs through in the background, one after the other, those of before a restart first. Every process has one; the
/// lock on a run keeps them from doing the same step twice.
/// </summary>
public sealed partial class BatchHost(DatabaseSetup setup, IServiceScopeFactory scopes, TimeProvider clock, ILogger<BatchHost> log)
    : DatabaseWorker(setup)
{
    private const int MostTries = 5;
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(5);

    private readonly SemaphoreSlim _work = new(0);
    private readonly Outage _outage = new(log, "Runs of batches wait.");

    /// <summary>Says that a run was begun.</summary>
    public void Wake() => _work.Release();

    public override void Dispose()
    {
        _work.Dispose();
        base.Dispose();
    }

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        var tries = new Dictionary<Guid, int>();
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                foreach (var (run, workspace) in await WaitingAsync(stopping))
                {
                    await WorkAsync(run, workspace, tries, stopping);
                }

                _outage.End();
            }
            catch (Exception away) when (DatabaseSetup.IsAway(away))
            {
                _outage.Begin(away);
            }
            catch (Exception broken) when (broken is not OperationCanceledException)
            {
                LogFailed(broken);
            }

            await _work.WaitAsync(Rest, stopping);
        }
    }

    private async Task<List<(Guid, Guid)>> WaitingAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<BeaconDb>();
        var runs = await db
            .BatchRuns.IgnoreQueryFilters()
            .Where(r => r.State == BatchState.Running)
            .OrderBy(r => r.StartedAt)
            .Select(r => new { r.Id, r.WorkspaceId })
            .ToListAsync(cancel);
        return [.. runs.Select(r => (r.Id, r.WorkspaceId))];
    }

    private async Task WorkAsync(Guid run, Guid workspace, Dictionary<Guid, int> tries, CancellationToken cancel)
    {
        try
        {
            bool more = true;
            while (more)
            {
                await using var scope = scopes.CreateAsyncScope();
                scope.ServiceProvider.GetRequiredService<CurrentWorkspace>().Id = workspace;
                more = await scope.ServiceProvider.GetRequiredService<BatchRunner>().StepAsync(run, cancel);
            }

            tries.Remove(run);
        }
        catch (Exception broken) when (broken is not OperationCanceledException && !DatabaseSetup.IsAway(broken))
        {
            LogBroken(run, broken);
            tries[run] = tries.GetValueOrDefault(run) + 1;
            if (tries[run] >= MostTries)
            {
                await GiveUpAsync(run, workspace, cancel);
            }
        }
    }

    /// <summary>What was made so far stays; running the batch again goes on with the rest.</summary>
    private async Task GiveUpAsync(Guid run, Guid workspace, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentWorkspace>().Id = workspace;
        var now = clock.GetUtcNow();
        await scope
            .ServiceProvider.GetRequiredService<BeaconDb>()
            .BatchRuns.Where(r => r.Id == run)
            .ExecuteUpdateAsync(
                r =>
                    r.SetProperty(x => x.State, BatchState.Broken)
                        .SetProperty(x => x.EndedAt, now)
                        .SetProperty(
                            x => x.Problem,
                            "The run failed several times at the same rows; the links created so far are kept. Run it again to continue."
                        ),
                cancel
            );
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Runs of batches can't be looked for.")]
    private partial void LogFailed(Exception exception);

    [LoggerMessage(Level = LogLevel.Error, Message = "Run {Run} of a batch broke off and is tried again.")]
    private partial void LogBroken(Guid run, Exception exception);
}
