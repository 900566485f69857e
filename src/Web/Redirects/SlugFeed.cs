using System.Text.Json;
using Npgsql;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Redirects;

/// <summary>
/// Fills the slug table at start and keeps it: listens for changes, which are numbered in the order of their commits,
/// and catches up on whatever lies between the last number known and the newest.
/// </summary>
public sealed class SlugFeed(DatabaseSetup setup, NpgsqlDataSource database, SlugTable table, TimeProvider clock, ILogger<SlugFeed> log)
    : DatabaseWorker(setup)
{
    private static readonly TimeSpan LookAnyway = TimeSpan.FromMilliseconds(500);
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(20);
    private static readonly TimeSpan TryAgain = TimeSpan.FromMilliseconds(500);

    /// <summary>How long changes are kept for processes that have not heard of them; one that was away for longer reads everything anew.</summary>
    public static readonly TimeSpan ChangesKeptFor = TimeSpan.FromDays(2);

    private readonly Outage _outage = new(log, "New short links are not heard of; the known ones go on.");

    private long _newest;
    private Task? _nudgedFor;

    /// <summary>Done when everything that was committed before this was called has been heard of; however many ask, one look answers them all.</summary>
    /// <exception cref="TimeoutException">The database says nothing.</exception>
    public async Task CatchUpAsync(CancellationToken cancel)
    {
        var caughtUp = table.CaughtUp;
        if (Interlocked.Exchange(ref _nudgedFor, caughtUp) != caughtUp)
        {
            // Whoever tries many addresses makes the database look 50 times a second, and not for each of them.
            await Task.Delay(Gather, cancel);
            try
            {
                await (caughtUp.IsCompleted ? Task.CompletedTask : SlugReader.NudgeAsync(database, cancel).WaitAsync(LookAnyway, cancel));
            }
            catch (Exception away) when (away is NpgsqlException or TimeoutException)
            {
                // It is looked for anyway, if there is anybody to ask.
            }
        }

        await caughtUp.WaitAsync(SlugTable.CurrentFor, cancel);
    }

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                await FollowAsync(stopping);
            }
            catch (Exception failure) when (failure is NpgsqlException or IOException or TimeoutException or InvalidOperationException)
            {
                table.MarkLost();
                _outage.Begin(failure);
            }
            catch (OperationCanceledException)
            {
                return;
            }

            await Task.Delay(TryAgain, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    private async Task FollowAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await SlugReader.ListenAsync(connection, cancel);
        var hearing = table.BeginHearing();
        if (table.IsFilled)
        {
            await CatchUpAsync(connection, cancel);
        }
        else
        {
            await FillAsync(connection, cancel);
        }

        while (true)
        {
            table.MarkHeard(hearing);
            _outage.End();
            await connection.WaitAsync(LookAnyway, cancel);
            hearing = table.BeginHearing();
            await CatchUpAsync(connection, cancel);
        }
    }

    private async Task FillAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var snapshot = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        (_, _newest) = await SlugReader.RangeAsync(connection, cancel);

        await SlugReader.ReadDomainsAsync(connection, table, cancel);
        await SlugReader.ReadAllAsync(connection, table, clock.GetUtcNow(), cancel);
        table.MarkFilled();
    }

    private async Task CatchUpAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await SlugReader.ReadDomainsAsync(connection, table, cancel);
        var (oldest, until) = await SlugReader.RangeAsync(connection, cancel);
        if (until <= _newest)
        {
            return;
        }

        if (_newest < oldest - 1)
        {
            // Some of what happened in the meantime was cleared already.
            await FillAsync(connection, cancel);
            return;
        }

        await SlugReader.ReadChangedAsync(connection, table, _newest, until, clock.GetUtcNow(), cancel);
        _newest = until;
    }
}
