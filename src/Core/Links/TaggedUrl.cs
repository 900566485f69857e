using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Links;

/// <summary>A destination with its tags on.</summary>
/// <param name="Url">The URL as sent, ASCII only.</param>
/// <param name="ParameterText">The new tags alone, encoded, without a <c>?</c>; empty when there are none.</param>
/// <param name="DrawStrip">Cuts the URL as shown into segments.</param>
/// <param name="Found">Tags the destination already had, in the order they stood there.</param>
/// <param name="Notices">What is to say about the URL as a whole.</param>
public sealed record TaggedUrl(
    string Url,
    string ParameterText,
    Func<IReadOnlyList<StripSegment>> DrawStrip,
    IReadOnlyList<FoundTag> Found,
    IReadOnlyList<Notice> Notices)
{
    private IReadOnlyList<StripSegment>? _strip;

    /// <summary>The URL as shown, cut into segments; drawn when asked for, since most links of a large batch are never looked at.</summary>
    public IReadOnlyList<StripSegment> Strip => _strip ??= DrawStrip();

    /// <summary>The URL as people read it.</summary>
    public string Shown => string.Concat(Strip.Select(s => s.Text));
}
