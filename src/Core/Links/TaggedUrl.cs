using PreciseBeacon.Core.Conventions;
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
    IReadOnlyList<Notice> Notices
)
{
    private IReadOnlyList<StripSegment>? _strip;

    /// <summary>The URL as shown, cut into segments; drawn when asked for, since most links of a large batch are never looked at.</summary>
    public IReadOnlyList<StripSegment> Strip => _strip ??= DrawStrip();

    /// <summary>The URL as people read it.</summary>
    public string Shown => string.Concat(Strip.Select(s => s.Text));
}

/// <summary>A tag an address already had.</summary>
/// <param name="Key">The tag's own key.</param>
/// <param name="WrittenKey">The key as it stood there, decoded.</param>
/// <param name="Value">The value as it stood there, decoded.</param>
/// <param name="AfterHash">True when it stood in the fragment.</param>
public sealed record FoundTag(string Key, string WrittenKey, string Value, bool AfterHash);

/// <summary>One stretch of a link strip; joined in order, the texts are the link as shown.</summary>
/// <param name="Part">What the stretch is.</param>
/// <param name="Text">The text, with the delimiter that stands before it.</param>
/// <param name="Key">The field's key, for fields.</param>
public sealed record StripSegment(StripPart Part, string Text, string? Key = null);

/// <summary>What a stretch of a link strip is.</summary>
public enum StripPart
{
    Scheme,
    Host,
    Path,

    /// <summary>What the page's own address carried in its query or fragment.</summary>
    Carried,

    /// <summary>One field's key and value.</summary>
    Field,
}
