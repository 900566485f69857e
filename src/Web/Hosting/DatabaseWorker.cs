namespace PreciseBeacon.Web.Hosting;

/// <summary>Background work that needs the database, and so waits until it was readied.</summary>
public abstract class DatabaseWorker(DatabaseSetup setup) : BackgroundService
{
    /// <summary>The work, until it is told to stop.</summary>
    protected abstract Task WorkAsync(CancellationToken stopping);

    protected sealed override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // The host waits for whatever comes before the first pause, with the door still closed.
        await Task.Yield();
        try
        {
            await setup.WaitAsync(stoppingToken);
        }
        catch (OperationCanceledException)
        {
            return;
        }

        await WorkAsync(stoppingToken);
    }
}
