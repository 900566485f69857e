using System.Collections.Concurrent;
using System.Collections.Frozen;
using Npgsql;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Every measured site by its key, in memory, so that measuring goes on without the database.</summary>
public sealed class SiteTable(DatabaseSetup setup, NpgsqlDataSource database, ILogger<SiteTable> log) : DatabaseWorker(setup), IReadiness
{
    private static readonly TimeSpan Every = TimeSpan.FromSeconds(2);

    private readonly Outage _outage = new(log, "Sites that are new are not measured yet; the known ones are.");

    private FrozenDictionary<string, MeasuredSite> _sites = FrozenDictionary<string, MeasuredSite>.Empty;
    private FrozenSet<string> _hosts = FrozenSet<string>.Empty;

    /// <summary>What was heard last of each site since it was last written down: two entries a site at most.</summary>
    private readonly ConcurrentDictionary<(Guid SiteId, bool OfSite), LastReport> _last = new();

    /// <summary>True once all sites were read, so that an unknown key really is unknown.</summary>
    public bool IsFilled { get; private set; }

    /// <inheritdoc />
    public string? WaitsFor => IsFilled ? null : "sites are being read";

    public MeasuredSite? Find(string key) => _sites.GetValueOrDefault(key);

    /// <summary>Whether a host, with its port, is one of any site's.</summary>
    public bool HasHost(string host) => _hosts.Contains(host);

    /// <summary>Notes that a site was heard of; it is written down within seconds, so that whoever puts the script in sees it.</summary>
    public void Note(LastReport report) => _last[(report.SiteId, report.OfSite)] = report;

    /// <summary>Reads all sites anew, and writes down what was heard of them.</summary>
    public async Task RefreshAsync(CancellationToken cancel)
    {
        var heard = _last.ToArray();
        if (heard.Length > 0)
        {
            await MeasuredSites.SayLastAsync(database, [.. heard.Select(h => h.Value)], cancel);
            foreach (var entry in heard)
            {
                // Only what was written: something newer may have come meanwhile.
                ((ICollection<KeyValuePair<(Guid, bool), LastReport>>)_last).Remove(entry);
            }
        }

        var sites = await MeasuredSites.ReadAsync(database, cancel);
        _sites = sites.ToFrozenDictionary();
        _hosts = sites.Values.SelectMany(s => s.Hosts).ToFrozenSet(StringComparer.OrdinalIgnoreCase);
        IsFilled = true;
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
