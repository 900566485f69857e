using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A link worked out by the convention; nothing is stored yet.</summary>
/// <param name="Destination">The accepted destination, or null when it was refused.</param>
/// <param name="Tagged">The tagged URL; there whenever the destination is acceptable, also while notices stop the link.</param>
/// <param name="Fields">All fields of the convention in order.</param>
/// <param name="Notices">Everything there is to say, gravest first.</param>
/// <param name="Style">Where the tags went.</param>
public sealed record ComposedLink(
    Destination? Destination,
    TaggedUrl? Tagged,
    IReadOnlyList<ComposedField> Fields,
    IReadOnlyList<Notice> Notices,
    TagStyle Style)
{
    /// <summary>True when the link may be saved.</summary>
    public bool Ready => Tagged is not null && Notices.All(n => n.Severity != Severity.Error);
}
