namespace PreciseBeacon.Core.Links;

/// <summary>One stretch of a link strip; joined in order, the texts are the link as shown.</summary>
/// <param name="Part">What the stretch is.</param>
/// <param name="Text">The text, with the delimiter that stands before it.</param>
/// <param name="Key">The field's key, for fields.</param>
public sealed record StripSegment(StripPart Part, string Text, string? Key = null);
