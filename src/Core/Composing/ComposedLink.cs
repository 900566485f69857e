using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>A link worked out by the convention; nothing is stored yet.</summary>
/// <param name="Destination">The accepted destination, or null when it was refused.</param>
/// <param name="Page">The page's address without tags, as people read it; null when it was refused.</param>
/// <param name="Tagged">The tagged URL; there whenever the destination is acceptable, also while notices stop the link.</param>
/// <param name="Fields">All fields of the convention in order.</param>
/// <param name="Notices">Everything there is to say, gravest first.</param>
/// <param name="Style">Where the tags went.</param>
public sealed record ComposedLink(
    Destination? Destination,
    string? Page,
    TaggedUrl? Tagged,
    IReadOnlyList<ComposedField> Fields,
    IReadOnlyList<Notice> Notices,
    TagStyle Style
)
{
    /// <summary>True when the link may be saved.</summary>
    public bool Ready => Tagged is not null && Notices.All(n => n.Severity != Severity.Error);
}

/// <summary>A field of a composed link.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Label">Its label.</param>
/// <param name="Value">Its written value; empty when it has none.</param>
/// <param name="From">Where the value came from.</param>
/// <param name="Steps">What was changed on the way, in order.</param>
public sealed record ComposedField(string Key, string Label, string Value, ValueOrigin From, IReadOnlyList<ValueStep> Steps)
{
    /// <summary>A field without a value.</summary>
    internal static ComposedField Empty(Field field) => new(field.Key, field.Label, "", ValueOrigin.None, []);
}

/// <summary>Where a field's value came from; an earlier one goes before a later.</summary>
public enum ValueOrigin
{
    /// <summary>Somebody typed it, or a call handed it over.</summary>
    Typed,

    /// <summary>A default value of the placement.</summary>
    Placement,

    /// <summary>The campaign's own name.</summary>
    Campaign,

    /// <summary>Put together by the field's name pattern.</summary>
    Composed,

    /// <summary>The field always says so.</summary>
    Fixed,

    /// <summary>The day the link is made.</summary>
    Today,

    /// <summary>The address had it already and it was kept.</summary>
    Address,

    /// <summary>Nothing gave it a value.</summary>
    None,
}
