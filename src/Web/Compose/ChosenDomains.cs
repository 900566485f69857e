using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Compose;

/// <summary>The short domains that links are to be made on, by what each asks for.</summary>
public sealed class ChosenDomains(IReadOnlyList<ShortDomain> usable)
{
    private readonly Dictionary<string, ShortDomain> _named = new(
        usable.SelectMany(d => new[] { KeyValuePair.Create(d.Host, d), KeyValuePair.Create(d.Id.ToString(), d) }), StringComparer.OrdinalIgnoreCase);

    private readonly Dictionary<Guid, ShortDomain> _byId = usable.ToDictionary(d => d.Id);

    private readonly ShortDomain? _first = usable.FirstOrDefault(d => d.IsFirst);

    /// <summary>The domain a link asks for, or its placement does, or the first; null when there is none.</summary>
    /// <exception cref="RefusedException">The workspace has no such domain, or it was not found to lead here.</exception>
    public ShortDomain? Of(WorkedLink worked) =>
        TypedText.OrNull(worked.Request.ShortDomain) is not { } named ? (worked.Placement?.ShortDomainId is { } standing ? _byId.GetValueOrDefault(standing) : null) ?? _first
        : _named.TryGetValue(named, out var found) ? found
        : throw new RefusedException(Refusal.Of(StatusCodes.Status422UnprocessableEntity, "domain-unknown", $"“{named}” isn't a usable short domain; choose another, or ask an owner to check it."));

    public ShortDomain ById(Guid id) => _byId[id];
}
