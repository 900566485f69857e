using System.Collections.Concurrent;
using System.Diagnostics;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.ShortLinks;

/// <summary>Every slug of every short domain, in memory, so that links go on without the database.</summary>
public sealed class SlugTable : IKnownSlugs
{
    /// <summary>After so long without a word from the database nobody knows whether a slug is new. It may have stopped without closing anything.</summary>
    public static readonly TimeSpan CurrentFor = TimeSpan.FromSeconds(2);

    private long _heardAt;
    private TaskCompletionSource _nextHearing = NewHearing();
    private readonly ConcurrentDictionary<string, ConcurrentDictionary<string, SlugEntry>> _domains = new(StringComparer.OrdinalIgnoreCase);
    private readonly ConcurrentDictionary<string, DomainFacts> _facts = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>True once the table was filled for the first time.</summary>
    public bool IsFilled { get; private set; }

    /// <summary>True while changes are being heard, so that an unknown slug really is unknown.</summary>
    public bool IsCurrent => Volatile.Read(ref _heardAt) is > 0 and var heard && Stopwatch.GetElapsedTime(heard) < CurrentFor;

    /// <summary>The slugs of a domain; null for a host that is no short domain.</summary>
    public ConcurrentDictionary<string, SlugEntry>? Domain(string host) => _domains.GetValueOrDefault(host);

    /// <inheritdoc />
    public long CountOn(string host) => Domain(host)?.Count ?? 0;

    /// <inheritdoc />
    public bool IsTaken(string host, string slug) => Domain(host)?.ContainsKey(slug) == true;

    /// <summary>What is known of a short domain; null for a host that is none.</summary>
    public DomainFacts? FactsOf(string host) => _facts.GetValueOrDefault(host);

    /// <summary>All short domains there are; those left out are none any more.</summary>
    public void SetDomains(IReadOnlyDictionary<string, DomainFacts> domains)
    {
        foreach (var (host, facts) in domains)
        {
            AddDomain(host);
            _facts[host] = facts;
        }

        foreach (string gone in _facts.Keys.Where(h => !domains.ContainsKey(h)))
        {
            _facts.TryRemove(gone, out _);
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

    /// <summary>Done when everything that was committed before this was asked for has been heard.</summary>
    public Task CaughtUp => Volatile.Read(ref _nextHearing).Task;

    /// <summary>Says that changes are going to be read from now on.</summary>
    /// <returns>What is to be handed to <see cref="MarkHeard"/> when they were read.</returns>
    public TaskCompletionSource BeginHearing() => Interlocked.Exchange(ref _nextHearing, NewHearing());

    /// <summary>Everything there was when the hearing began is in the table.</summary>
    public void MarkHeard(TaskCompletionSource hearing)
    {
        Volatile.Write(ref _heardAt, Stopwatch.GetTimestamp());
        hearing.TrySetResult();
    }

    /// <summary>Changes are not being heard any more.</summary>
    public void MarkLost() => Volatile.Write(ref _heardAt, 0);

    private static TaskCompletionSource NewHearing() => new(TaskCreationOptions.RunContinuationsAsynchronously);
}

/// <summary>What the redirector has to know about a short link.</summary>
/// <param name="ShortLinkId">Its id.</param>
/// <param name="WorkspaceId">Whose it is.</param>
/// <param name="Target">Where it leads, ASCII; null while it leads nowhere.</param>
/// <param name="Conditions">What keeps it from simply redirecting; null for most links.</param>
public sealed record SlugEntry(Guid ShortLinkId, Guid WorkspaceId, string? Target, RouteConditions? Conditions = null)
{
    /// <summary>Key of the page it leads to by itself.</summary>
    public long PageKey { get; } = Core.Traffic.PageKey.OfAddress(Target);
}

/// <summary>What is known of a short domain besides its slugs.</summary>
/// <param name="Proof">What proves that its host leads here.</param>
/// <param name="Workspace">The name of the workspace it belongs to.</param>
public sealed record DomainFacts(string Proof, string Workspace);
