using System.Collections.Frozen;
using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Every measured site by its key, in memory, so that measuring goes on without the database.</summary>
public sealed class SiteTable(DatabaseSetup setup, NpgsqlDataSource database, ILogger<SiteTable> log) : DatabaseWorker(setup)
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(2);

    private readonly Outage _outage = new(log, "Sites that are new are not measured yet; the known ones are.");

    private FrozenDictionary<string, MeasuredSite> _sites = FrozenDictionary<string, MeasuredSite>.Empty;
    private FrozenSet<string> _hosts = FrozenSet<string>.Empty;

    public MeasuredSite? Find(string key) => _sites.GetValueOrDefault(key);

    /// <summary>Whether a host, with its port, is one of any site's.</summary>
    public bool HasHost(string host) => _hosts.Contains(host);

    /// <summary>Reads all sites anew.</summary>
    public async Task RefreshAsync(CancellationToken cancel)
    {
        var sites = await MeasuredSites.ReadAsync(database, cancel);
        _sites = sites.ToFrozenDictionary();
        _hosts = sites.Values.SelectMany(s => s.Hosts).ToFrozenSet(StringComparer.OrdinalIgnoreCase);
    }

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                await RefreshAsync(stopping);
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

            await Task.Delay(Every, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }
}
