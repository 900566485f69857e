namespace PreciseBeacon.Web.Traffic;

/// <summary>Tells the working out that new raw events have come.</summary>
public sealed class WorkSignal : IDisposable
{
    private readonly SemaphoreSlim _semaphore = new(0, 1);

    public void Raise()
    {
        try
        {
            _semaphore.Release();
        }
        catch (SemaphoreFullException)
        {
            // It is raised already.
        }
    }

    public void Dispose() => _semaphore.Dispose();

    /// <summary>Waits until new events have come, or for a while: another process may have moved some.</summary>
    public Task WaitAsync(TimeSpan most, CancellationToken cancel) => _semaphore.WaitAsync(most, cancel);
}
