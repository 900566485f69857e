using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.AccessLogs;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.AccessLogs;

/// <summary>
/// Reads access logs in the background, a batch of each in turn, so that a small one never waits for a large one. Reading goes as fast as
/// visits are worked out; after a restart it goes on where it was.
/// </summary>
public sealed class AccessLogWorker(
    DatabaseSetup setup,
    AccessLogStore store,
    NpgsqlDataSource database,
    EventIds ids,
    Countries countries,
    TownPoints points,
    SaltBook salts,
    WorkSignal work,
    TimeProvider clock,
    ILogger<AccessLogWorker> log
) : DatabaseWorker(setup)
{
    /// <summary>So many visitors' days may wait to be worked out before the next batch is read.</summary>
    private const int MostWaiting = 3_000;

    private static readonly TimeSpan LookAnyway = TimeSpan.FromSeconds(10);
    private static readonly TimeSpan LookForRoom = TimeSpan.FromMilliseconds(50);

    private readonly SemaphoreSlim _files = new(0);
    private readonly Outage _outage = new(log, "Access logs wait to be read.");

    /// <summary>Says that a file is complete.</summary>
    public void Wake() => _files.Release();

    public override void Dispose()
    {
        _files.Dispose();
        base.Dispose();
    }

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        var open = new Dictionary<Guid, AccessLogReader>();
        bool begun = false;
        try
        {
            while (!stopping.IsCancellationRequested)
            {
                try
                {
                    begun = begun || await BeginAsync(stopping);
                    bool more = await StepAsync(open, stopping);
                    _outage.End();
                    if (!more)
                    {
                        await _files.WaitAsync(LookAnyway, stopping);
                    }
                }
                catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
                {
                    // What was read since the last commit is read again.
                    CloseAll(open);
                    _outage.Begin(failure);
                    await Task.Delay(LookForRoom, stopping);
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The application stops; reading goes on when it is there again.
        }
        finally
        {
            CloseAll(open);
        }
    }

    /// <summary>A file that was whole when its process died is told by its reading, which is written down after its last octet.</summary>
    private async Task<bool> BeginAsync(CancellationToken cancel)
    {
        foreach (var (id, _) in await AccessLogReadings.WorkspacesAsync(database, store.Incomplete(), cancel))
        {
            store.Complete(id);
        }

        store.DeleteLeftovers(clock.GetUtcNow());
        return true;
    }

    /// <summary>Reads a batch of every file; one that another process has, or that the disk does not give, is left for later.</summary>
    /// <returns>False when there is none.</returns>
    private async Task<bool> StepAsync(Dictionary<Guid, AccessLogReader> open, CancellationToken cancel)
    {
        var waiting = store.Complete();
        if (waiting.Count == 0)
        {
            return false;
        }

        bool read = false;
        var workspaces = await AccessLogReadings.WorkspacesAsync(database, waiting, cancel);
        foreach (var id in waiting)
        {
            if (!workspaces.TryGetValue(id, out var workspace))
            {
                // It was read or cancelled, by this process or by one that died before it could delete the file.
                open.Remove(id, out var done);
                done?.Dispose();
                store.Delete(id);
                continue;
            }

            if (!open.TryGetValue(id, out var reader))
            {
                // The clicks of a workspace's first seconds may have a salt that only this process knows of yet.
                await salts.RefreshAsync(cancel);
                open[id] = reader = new AccessLogReader(store.PathOf(id), id, workspace, database, ids, countries, points, clock);
            }

            await WaitForRoomAsync(cancel);
            try
            {
                if (!await reader.StepAsync(cancel))
                {
                    open.Remove(id);
                    reader.Dispose();
                    store.Delete(id);
                }

                read = true;
                work.Raise();
            }
            catch (IOException)
            {
                open.Remove(id);
                reader.Dispose();
            }
        }

        return read;
    }

    private async Task WaitForRoomAsync(CancellationToken cancel)
    {
        while (await AccessLogReadings.WaitingAsync(database, MostWaiting, cancel) >= MostWaiting)
        {
            await Task.Delay(LookForRoom, cancel);
        }
    }

    private static void CloseAll(Dictionary<Guid, AccessLogReader> open)
    {
        foreach (var reader in open.Values)
        {
            reader.Dispose();
        }

        open.Clear();
    }
}
