namespace PreciseBeacon.Core.Links;

/// <summary>A tagged URL read back.</summary>
/// <param name="Untagged">The destination without its tags.</param>
/// <param name="AsWritten">The destination with its tags still where they stood; composing the values on it again gives the same URL.</param>
/// <param name="Values">The first value of each tag that was there, by the tag's own key, in the order of the tags.</param>
/// <param name="Found">Every occurrence of a tag, in the order of the URL.</param>
/// <param name="Others">The page's own pairs in the query, decoded, in order.</param>
public sealed record ReadLink(
    Destination Untagged,
    Destination AsWritten,
    IReadOnlyDictionary<string, string> Values,
    IReadOnlyList<FoundTag> Found,
    IReadOnlyList<KeyValuePair<string, string>> Others);
