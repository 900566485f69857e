using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Traffic;

/// <summary>Hears what all processes tell of traffic, and passes it on within this one.</summary>
public sealed class TrafficFeed(
    DatabaseSetup setup,
    NpgsqlDataSource database,
    LiveTraffic live,
    WorkSignal signal,
    ILogger<TrafficFeed> log
) : DatabaseWorker(setup)
{
    private static readonly TimeSpan TryAgain = TimeSpan.FromSeconds(1);

    private readonly Outage _outage = new(log, "Open reports hear of nothing new.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                await using var connection = await database.OpenConnectionAsync(stopping);
                connection.Notification += (_, notice) => Pass(notice);
                await TrafficNotices.ListenAsync(connection, stopping);
                _outage.End();

                // What was told before this is not known.
                live.TellAll();
                while (true)
                {
                    await connection.WaitAsync(stopping);
                }
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException or InvalidOperationException)
            {
                _outage.Begin(failure);
                await Task.Delay(TryAgain, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private void Pass(NpgsqlNotificationEventArgs notice)
    {
        if (notice.Channel == TrafficNotices.Moved)
        {
            signal.Raise();
        }
        else if (Guid.TryParse(notice.Payload, out var workspace))
        {
            live.Tell(workspace);
        }
    }
}
