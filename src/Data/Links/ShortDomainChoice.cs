using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>The short domains that links can be made on, and which of them is meant.</summary>
public sealed class ShortDomainChoice
{
    private readonly NamedThings<ShortDomain> _named;
    private readonly Dictionary<Guid, ShortDomain> _byId;

    private ShortDomainChoice(IReadOnlyList<ShortDomain> usable)
    {
        _named = new(usable, d => d.Id, d => d.Host);
        _byId = usable.ToDictionary(d => d.Id);
        First = usable.FirstOrDefault(d => d.IsFirst);
    }

    /// <summary>The workspace's first domain; null where it has none, or it was not found to lead here.</summary>
    public ShortDomain? First { get; }

    /// <summary>Reads those of the current workspace that were found to lead here.</summary>
    public static async Task<ShortDomainChoice> ReadAsync(BeaconDb db, CancellationToken cancel) =>
        new([.. (await db.ShortDomains.AsNoTracking().ToListAsync(cancel)).Where(d => d.IsUsable)]);

    /// <summary>One by id or host, or the first; null where there is none such.</summary>
    public ShortDomain? Find(string? named) => string.IsNullOrWhiteSpace(named) ? First : _named.Find(named);

    /// <summary>The domain a link asks for, or its placement does, or the first; null when there is none.</summary>
    public ShortDomain? Of(PreparedLink link) =>
        string.IsNullOrWhiteSpace(link.Request.ShortDomain)
            ? (link.Placement?.ShortDomainId is { } own ? _byId.GetValueOrDefault(own) : null) ?? First
            : _named.Find(link.Request.ShortDomain);

    /// <summary>Why a link can't be made on the domain it asks for; null where it can.</summary>
    public Refusal? WhyNot(PreparedLink link) =>
        _named.TryFind(link.Request.ShortDomain, out _)
            ? null
            : Refusal.Unacceptable(
                "domain-unknown",
                $"“{link.Request.ShortDomain!.Trim()}” isn't a usable short domain; choose another, or ask an owner to check it."
            );

    internal ShortDomain ById(Guid id) => _byId[id];
}
