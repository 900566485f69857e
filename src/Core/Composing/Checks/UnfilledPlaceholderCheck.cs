using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A short link sends what was stored, so a placeholder in its URL reaches the page unfilled.</summary>
internal static class UnfilledPlaceholderCheck
{
    /// <summary>Looks at the URL behind a short link that drops what a platform puts behind it.</summary>
    /// <param name="url">The URL.</param>
    /// <param name="live">Shapes of placeholders that platforms fill in.</param>
    public static IEnumerable<Notice> Run(string url, PlaceholderShapes live)
    {
        if (PlaceholdersBehind.FirstIn(url, live) is { } placeholder)
        {
            string way = PlaceholdersBehind.QueryOf(url, live) is null ? "" : ", or carry parameters through the short link";
            yield return Notice.Of(
                NoticeRules.PlaceholderOnShortLink,
                null,
                $"“{placeholder}” is filled in only in the long link, not behind a short link; copy the long link{way}."
            );
        }
    }
}
