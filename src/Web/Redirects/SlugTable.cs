using System.Collections.Concurrent;

namespace PreciseBeacon.Web.Redirects;

/// <summary>Every slug of every short domain, in memory, so that links go on without the database.</summary>
public sealed class SlugTable
{
    private readonly ConcurrentDictionary<string, ConcurrentDictionary<string, SlugEntry>> _domains = new(StringComparer.OrdinalIgnoreCase);
    private readonly ConcurrentDictionary<string, string> _proofs = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>True once the table was filled for the first time.</summary>
    public bool IsFilled { get; private set; }

    /// <summary>True while changes are being heard, so that an unknown slug really is unknown.</summary>
    public bool IsCurrent { get; set; }

    /// <summary>The slugs of a domain; null for a host that is no short domain.</summary>
    public ConcurrentDictionary<string, SlugEntry>? Domain(string host) => _domains.GetValueOrDefault(host);

    /// <summary>How many slugs a domain has.</summary>
    public long CountOn(string host) => Domain(host)?.Count ?? 0;

    /// <summary>What proves that a host leads here; null for a host that is no short domain.</summary>
    public string? ProofOf(string host) => _proofs.GetValueOrDefault(host);

    /// <summary>All short domains there are, with their proofs; those left out are none any more.</summary>
    public void SetDomains(IReadOnlyDictionary<string, string> proofs)
    {
        foreach (var (host, proof) in proofs)
        {
            AddDomain(host);
            _proofs[host] = proof;
        }

        foreach (string gone in _proofs.Keys.Where(h => !proofs.ContainsKey(h)))
        {
            _proofs.TryRemove(gone, out _);
            _domains.TryRemove(gone, out _);
        }
    }

    public void AddDomain(string host) => _domains.GetOrAdd(host, static _ => new(StringComparer.OrdinalIgnoreCase));

    public void Set(string host, string slug, SlugEntry entry)
    {
        AddDomain(host);
        _domains[host][slug] = entry;
    }

    public void MarkFilled() => IsFilled = true;
}
