using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Gathers the findings of each workspace now and then, and soon after something changed them.</summary>
public sealed partial class FindingWorker(
    DatabaseSetup setup,
    IServiceScopeFactory scopes,
    FindingBook book,
    TimeProvider clock,
    ILogger<FindingWorker> log
) : StepWorker(setup, new Outage(log, "Findings wait to be gathered."), TimeSpan.FromSeconds(2))
{
    protected override async Task<bool> StepAsync(CancellationToken stopping)
    {
        if (await book.TakeDueAsync(clock.GetUtcNow(), stopping) is not { } workspace)
        {
            return false;
        }

        await using var scope = scopes.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentWorkspace>().Id = workspace;
        try
        {
            var found = await scope.ServiceProvider.GetRequiredService<FindingCollector>().CollectAsync(stopping);
            await book.KeepAsync(workspace, found, clock.GetUtcNow(), stopping);
        }
        catch (Exception broken) when (broken is not OperationCanceledException && !DatabaseSetup.IsAway(broken))
        {
            // The others are still to be gathered; this one is tried again with the hour.
            LogBroken(workspace, broken);
        }

        return true;
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The findings of workspace {Workspace} can't be gathered.")]
    private partial void LogBroken(Guid workspace, Exception exception);
}
