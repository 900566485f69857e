using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>
/// Placeholders that an ad platform or a mail tool fills in only where it sees them: in the long link, or in parameters
/// behind the short link that are carried through.
/// </summary>
public static class PlaceholdersBehind
{
    /// <summary>The first such placeholder of a URL; null when it has none. Fill-ins of our own redirect are none.</summary>
    public static string? FirstIn(string url, PlaceholderShapes live) =>
        Placeholders.Split(url, live).FirstOrDefault(Foreign) is { Text: { } found } ? found : null;

    /// <summary>
    /// What has to stand behind the short link of a URL, so that all its placeholders are filled in: the parameters that
    /// hold them, as they stand; null when it has none, or one outside the query, where nothing can be carried to.
    /// </summary>
    public static string? QueryOf(string url, PlaceholderShapes live)
    {
        var parts = UriParts.Split(url);
        return
            FirstIn(parts.Path, live) is null
            && FirstIn(parts.Fragment ?? "", live) is null
            && RawPair.Split(parts.Query).Select(p => p.Raw).Where(p => FirstIn(p, live) is not null).ToList() is { Count: > 0 } pairs
            ? string.Join('&', pairs)
            : null;
    }

    /// <summary>What is to be copied and placed of a link: the form in which everything is filled in that has to be.</summary>
    /// <param name="url">The long link.</param>
    /// <param name="shortUrl">Its short link; null when it has none.</param>
    /// <param name="carries">What the short link does with parameters behind it.</param>
    /// <param name="live">Shapes of placeholders in use.</param>
    /// <returns>The short link; with parameters behind it where placeholders are carried through; the long one where they are not.</returns>
    public static string UrlToCopy(string url, string? shortUrl, CarriedParameters carries, PlaceholderShapes live) =>
        shortUrl is null ? url
        : FirstIn(url, live) is null ? shortUrl
        : carries == CarriedParameters.Overwrite && QueryOf(url, live) is { } query ? $"{shortUrl}?{query}"
        : url;

    private static bool Foreign(TextAtom atom) => atom.IsPlaceholder && atom.Shape != PlaceholderShapes.AtClick;
}
