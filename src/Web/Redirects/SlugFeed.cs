using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Redirects;

/// <summary>
/// Fills the slug table at start and keeps it: listens for changes, which are numbered in the order of their commits,
/// and catches up on whatever lies between the last number known and the newest.
/// </summary>
public sealed class SlugFeed(DatabaseSetup setup, NpgsqlDataSource database, SlugTable table, TimeProvider clock, ILogger<SlugFeed> log) : DatabaseWorker(setup)
{
    private static readonly TimeSpan LookAnyway = TimeSpan.FromMilliseconds(500);
    private static readonly TimeSpan TryAgain = TimeSpan.FromMilliseconds(500);

    /// <summary>How long changes are kept for processes that have not heard of them; one that was away for longer reads everything anew.</summary>
    public static readonly TimeSpan ChangesKeptFor = TimeSpan.FromDays(2);

    private const string Select =
        """
        select d.host, s.slug, s.id, s.workspace_id, case when not l.is_waiting then s.target end, l.paused, l.ends_at, l.fallback,
            l.uses_left, l.turns::text, l.permanent, l.carries
        from short_links s join short_domains d on d.id = s.short_domain_id join links l on l.id = s.link_id
        """;

    private const string NothingCarried = nameof(CarriedParameters.Nothing);

    private readonly Outage _outage = new(log, "New short links are not heard of; the known ones go on.");

    private long _newest;

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
        await RunAsync(connection, "listen slug_change; listen place_change", cancel);
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
            table.MarkHeard();
            _outage.End();
            await connection.WaitAsync(LookAnyway, cancel);
            await CatchUpAsync(connection, cancel);
        }
    }

    private async Task FillAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var snapshot = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        (_, _newest) = await RangeAsync(connection, cancel);

        await ReadDomainsAsync(connection, cancel);
        await using var all = new NpgsqlCommand(Select, connection);
        await ReadEntriesAsync(all, cancel);
        table.MarkFilled();
    }

    private async Task CatchUpAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await ReadDomainsAsync(connection, cancel);
        var (oldest, until) = await RangeAsync(connection, cancel);
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

        await using var changed = new NpgsqlCommand(
            $"{Select} where s.id in (select short_link_id from slug_change where seq > $1 and seq <= $2) order by s.link_id", connection);
        changed.Parameters.Add(new() { Value = _newest });
        changed.Parameters.Add(new() { Value = until });
        await ReadEntriesAsync(changed, cancel);
        _newest = until;
    }

    /// <summary>Numbers of the oldest change that is kept and of the newest; 0 where there was none.</summary>
    private static async Task<(long Oldest, long Newest)> RangeAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var range = new NpgsqlCommand("select coalesce(min(seq), 0), coalesce(max(seq), 0) from slug_change", connection);
        await using var reader = await range.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return (reader.GetInt64(0), reader.GetInt64(1));
    }

    private async Task ReadDomainsAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select d.host, d.proof, w.name from short_domains d join workspaces w on w.id = d.workspace_id", connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var domains = new Dictionary<string, DomainFacts>(StringComparer.OrdinalIgnoreCase);
        while (await reader.ReadAsync(cancel))
        {
            domains[reader.GetString(0)] = new DomainFacts(reader.GetString(1), reader.GetString(2));
        }

        table.SetDomains(domains);
    }

    private async Task ReadEntriesAsync(NpgsqlCommand command, CancellationToken cancel)
    {
        await using var reader = await command.ExecuteReaderAsync(cancel);
        string? before = null;
        var now = clock.GetUtcNow();
        while (await reader.ReadAsync(cancel))
        {
            // A link's slugs for text and for its code mostly come one after the other; they share the address they lead to.
            string? target = reader.IsDBNull(4) ? null : reader.GetString(4);
            before = target == before ? before : target;
            var conditions = RouteConditions.Of(
                reader.GetBoolean(5), reader.IsDBNull(6) ? null : reader.GetFieldValue<DateTimeOffset>(6), reader.IsDBNull(7) ? null : reader.GetString(7), reader.IsDBNull(8) ? null : reader.GetInt32(8),
                reader.IsDBNull(9) ? null : RedirectRule.Read(reader.GetString(9)), reader.GetBoolean(10),
                reader.GetString(11) is NothingCarried ? CarriedParameters.Nothing : Enum.Parse<CarriedParameters>(reader.GetString(11)), target, now);
            table.Set(reader.GetString(0), reader.GetString(1), new SlugEntry(reader.GetGuid(2), reader.GetGuid(3), before, conditions));
        }
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
