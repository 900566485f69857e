namespace PreciseBeacon.Core.Links;

/// <summary>Reads the tags back out of a URL, wherever they stand.</summary>
public static class LinkReader
{
    private static readonly IReadOnlyDictionary<string, string> NoValues = new Dictionary<string, string>();

    /// <summary>Takes a destination apart into its untagged rest and the values of the given tags.</summary>
    /// <param name="destination">An accepted destination, tags and all.</param>
    /// <param name="tags">The tags to look for; their values don't matter.</param>
    public static ReadLink Read(Destination destination, IReadOnlyList<Tag> tags)
    {
        var holder = FragmentPairs.Of(destination.Fragment);
        var query = new TagPieces(destination.Query, tags);
        var fragment = new TagPieces(holder.Pairs, tags);
        List<FoundTag> found = [.. query.Found(afterHash: false), .. fragment.Found(afterHash: true)];

        if (found.Count == 0)
        {
            // The commonest case: a page as it is.
            return new ReadLink(destination, destination, NoValues, found) { OwnPairs = query.Pieces };
        }

        var values = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var tag in tags)
        {
            if (found.FirstOrDefault(f => f.Key == tag.Key) is { } first)
            {
                values[tag.Key] = first.Value;
            }
        }

        query.Strip();
        fragment.Strip();
        var untagged = destination with
        {
            Query = query.Join(),
            Fragment = fragment.Changed ? holder.With(fragment.Join()) : destination.Fragment,
        };

        return new ReadLink(untagged, destination, values, found) { OwnPairs = query.Pieces };
    }
}

/// <summary>A tagged URL read back.</summary>
/// <param name="Untagged">The destination without its tags.</param>
/// <param name="AsWritten">The destination with its tags still where they stood; composing the values on it again gives the same URL.</param>
/// <param name="Values">The first value of each tag that was there, by the tag's own key, in the order of the tags.</param>
/// <param name="Found">Every occurrence of a tag, in the order of the URL.</param>
public sealed record ReadLink(
    Destination Untagged,
    Destination AsWritten,
    IReadOnlyDictionary<string, string> Values,
    IReadOnlyList<FoundTag> Found
)
{
    /// <summary>The page's own pairs in the query, decoded, in order.</summary>
    public IReadOnlyList<KeyValuePair<string, string>> Others =>
        [.. OwnPairs.Where(p => p.Text.Length > 0).Select(p => new RawPair(p.Text)).Select(p => KeyValuePair.Create(p.Key, p.Value))];

    /// <summary>The pieces of the query that are left.</summary>
    internal IReadOnlyList<(string Text, int Tag)> OwnPairs { get; init; } = [];
}
