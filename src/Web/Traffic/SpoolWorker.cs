using System.Collections.Concurrent;
using System.Diagnostics;
using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>
/// Owns this process's spool, adopts orphaned ones, and moves records into the database in the background. The mover
/// rests between batches, so that traffic always goes first; what waits meanwhile is safe in the spool.
/// </summary>
public sealed partial class SpoolWorker : DatabaseWorker
{
    private static readonly TimeSpan LookForOrphans = TimeSpan.FromSeconds(10);
    private static readonly TimeSpan TryAgain = TimeSpan.FromSeconds(1);

    private readonly SpoolDrain _mover;
    private readonly NpgsqlDataSource _database;
    private readonly WorkSignal _signal;
    private readonly ILogger<SpoolWorker> _log;
    private readonly Outage _outage;
    private readonly string _root;
    private readonly SpoolOptions _options;
    private readonly List<Spool> _adopted = [];
    private readonly ConcurrentDictionary<(Guid Workspace, DateOnly Day), long> _lost = new();

    public SpoolWorker(
        SpoolDrain mover,
        NpgsqlDataSource database,
        WorkSignal signal,
        DatabaseSetup setup,
        IOptions<BeaconOptions> options,
        ILogger<SpoolWorker> log
    )
        : base(setup)
    {
        (_mover, _database, _signal, _log) = (mover, database, signal, log);
        _outage = new Outage(log, "Events wait in the spool.");
        _root = Path.Combine(options.Value.DataDirectory, "spool");
        _options = new SpoolOptions(MostSegments: options.Value.SpoolSegments);
        Directory.CreateDirectory(_root);
        _adopted.AddRange(Spool.OpenOrphans(_root, _options));
        Own = Spool.Create(_root, _options);
    }

    /// <summary>The spool this process appends to.</summary>
    public Spool Own { get; }

    /// <summary>Writes events straight into the database; when that fails too, they are counted as lost.</summary>
    public async Task KeepStraightAsync(RawEvents events, Guid workspaceId, DateTimeOffset at)
    {
        try
        {
            await _mover.WriteStraightAsync(events, CancellationToken.None);
            _signal.Raise();
        }
        catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
        {
            _lost.AddOrUpdate((workspaceId, DateOnly.FromDateTime(at.UtcDateTime)), events.Count, (_, n) => n + events.Count);
            LogLoss(events.Count, failure.Message);
        }
    }

    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await base.StopAsync(cancellationToken);
        Own.Close();
        foreach (var spool in _adopted)
        {
            spool.Dispose();
        }

        Own.Dispose();
    }

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        var pace = new DrainThrottle(Own);
        long looked = Stopwatch.GetTimestamp();
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                if (Stopwatch.GetElapsedTime(looked) > LookForOrphans)
                {
                    _adopted.AddRange(Spool.OpenOrphans(_root, _options));
                    looked = Stopwatch.GetTimestamp();
                }

                long began = Stopwatch.GetTimestamp();
                int moved = await MoveOnceAsync(stopping);
                _outage.End();
                if (moved > 0)
                {
                    _signal.Raise();
                    await Task.Delay(pace.RestAfter(Stopwatch.GetElapsedTime(began)), stopping);
                }
                else
                {
                    await TellLossAsync(stopping);
                    await Own.Waiting.WaitAsync(TryAgain, stopping);
                }
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
                await Task.Delay(TryAgain, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private async Task<int> MoveOnceAsync(CancellationToken cancel)
    {
        for (int i = _adopted.Count - 1; i >= 0; i--)
        {
            int moved = await _mover.MoveAsync(_adopted[i], cancel);
            if (moved > 0)
            {
                return moved;
            }

            _adopted[i].Delete();
            _adopted.RemoveAt(i);
        }

        return await _mover.MoveAsync(Own, cancel);
    }

    /// <summary>Writes the count of lost events down once the database is back, so that reports can show it.</summary>
    private async Task TellLossAsync(CancellationToken cancel)
    {
        foreach (var (key, lost) in _lost.ToArray())
        {
            await EventLoss.AddAsync(_database, key.Workspace, key.Day, lost, cancel);
            _lost.AddOrUpdate(key, 0, (_, n) => n - lost);
            _lost.TryRemove(KeyValuePair.Create(key, 0L));
        }
    }

    [LoggerMessage(LogLevel.Error, "{Count} events could be stored neither in the spool nor in the database: {Reason}.")]
    private partial void LogLoss(int count, string reason);
}
