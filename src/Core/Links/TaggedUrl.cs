using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Links;

/// <summary>A destination with its tags on.</summary>
/// <param name="Url">The URL as sent, ASCII only.</param>
/// <param name="Shown">The URL as people read it.</param>
/// <param name="ParameterText">The new tags alone, encoded, without a <c>?</c>; empty when there are none.</param>
/// <param name="Strip">The URL as shown, cut into segments.</param>
/// <param name="Found">Tags the destination already had, in the order they stood there.</param>
/// <param name="Notices">What is to say about the URL as a whole.</param>
public sealed record TaggedUrl(
    string Url,
    string Shown,
    string ParameterText,
    IReadOnlyList<StripSegment> Strip,
    IReadOnlyList<FoundTag> Found,
    IReadOnlyList<Notice> Notices);
