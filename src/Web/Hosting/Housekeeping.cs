using Npgsql;
using PreciseBeacon.Data.Accounts;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Writes down which keys were used, and clears what has had its time.</summary>
public sealed class Housekeeping(DatabaseSetup setup, Clearing clearing, KeyUses keys, TimeProvider clock, ILogger<Housekeeping> log)
    : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(20);
    private static readonly TimeSpan ClearEvery = TimeSpan.FromMinutes(10);

    /// <summary>What was sent is shown for so long (ours).</summary>
    private static readonly TimeSpan MailsKeptFor = TimeSpan.FromDays(90);

    private readonly Outage _outage = new(log, "What has had its time is cleared later.");

    /// <summary>Clears everything that has had its time by a moment.</summary>
    public async Task ClearAsync(DateTimeOffset now, CancellationToken cancel)
    {
        await clearing.IdempotentAnswersAsync(now - IdempotentRequest.KeptFor, cancel);
        await clearing.SlugChangesAsync(now - SlugFeed.ChangesKeptFor, cancel);
        await clearing.MailsAsync(now - MailsKeptFor, cancel);
        await clearing.SessionsAsync(now - SessionKeeper.Idle, now - SessionKeeper.Longest, cancel);
    }

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        var cleared = DateTimeOffset.MinValue;
        while (!stopping.IsCancellationRequested)
        {
            await Task.Delay(Every, clock, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            try
            {
                await keys.WriteAsync(stopping);
                var now = clock.GetUtcNow();
                if (now - cleared >= ClearEvery)
                {
                    await ClearAsync(now, stopping);
                    cleared = now;
                }

                _outage.End();
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }
}
