using System.Collections.Frozen;
using Npgsql;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Every measured site by its key, in memory, so that measuring goes on without the database.</summary>
public sealed partial class SiteTable(NpgsqlDataSource database, ILogger<SiteTable> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(2);

    private FrozenDictionary<string, MeasuredSite> _sites = FrozenDictionary<string, MeasuredSite>.Empty;

    public MeasuredSite? Find(string key) => _sites.GetValueOrDefault(key);

    /// <summary>Reads all sites anew.</summary>
    public async Task RefreshAsync(CancellationToken cancel)
    {
        var sites = new Dictionary<string, MeasuredSite>(StringComparer.Ordinal);
        await using var command = database.CreateCommand(
            """
            select s.measuring_key, s.id, s.workspace_id, array(select h.host from site_hosts h where h.site_id = s.id), s.keeps_visitor_ids, s.visitor_id_key
            from sites s
            """);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            sites[reader.GetString(0)] = new MeasuredSite(
                reader.GetGuid(1), reader.GetGuid(2), reader.GetFieldValue<string[]>(3).ToFrozenSet(StringComparer.OrdinalIgnoreCase),
                reader.GetBoolean(4), reader.GetFieldValue<byte[]>(5));
        }

        _sites = sites.ToFrozenDictionary();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await RefreshAsync(stoppingToken);
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                LogWaiting(failure.Message);
            }
            catch (OperationCanceledException)
            {
                return;
            }

            await Task.Delay(Every, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    [LoggerMessage(LogLevel.Warning, "Sites can't be read right now: {Reason}. The known ones go on being measured.")]
    private partial void LogWaiting(string reason);
}
