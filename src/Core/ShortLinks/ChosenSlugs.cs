using PreciseBeacon.Core.Composing;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Slugs that somebody chose for a link, as they are stored: ours ignore case.</summary>
public static class ChosenSlugs
{
    /// <summary>Those of the short link in texts and of the one in the code; none to two.</summary>
    public static IEnumerable<string> Of(ComposeRequest request) => new[] { Read(request.Slug), Read(request.CodeSlug) }.OfType<string>();

    /// <summary>One slug in lower case; null where none was chosen.</summary>
    public static string? Read(string? chosen) => string.IsNullOrWhiteSpace(chosen) ? null : chosen.Trim().ToLowerInvariant();
}
