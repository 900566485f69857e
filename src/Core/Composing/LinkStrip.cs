using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>Cuts a finished link into the segments of its strip.</summary>
public static class LinkStrip
{
    /// <summary>The strip of a URL made earlier.</summary>
    /// <param name="url">A composed URL.</param>
    /// <param name="tags">The tags with the values it was made with.</param>
    /// <param name="settings">How the workspace writes its links.</param>
    /// <returns>The segments in order; one plain segment when the URL can't be read.</returns>
    public static IReadOnlyList<StripSegment> Of(string url, IReadOnlyList<Tag> tags, LinkSettings settings) =>
        DestinationReader.Read(url).Destination is { } destination
            ? TagWriter.Write(destination, tags, settings with { Existing = ExistingTags.Keep }).Strip
            : [new StripSegment(StripPart.Path, url)];
}
