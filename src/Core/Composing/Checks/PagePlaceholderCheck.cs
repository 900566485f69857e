using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A placeholder in the page's address whose marks may not stand in a URI is encoded where its shape is not in use, and nobody fills it in.</summary>
internal static class PagePlaceholderCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.Destination is not { } destination)
        {
            yield break;
        }

        string address = new UriParts(null, null, destination.Path, destination.Query, destination.Fragment).ToString();
        var encoded = Placeholders
            .Split(address, PlaceholderShapes.All)
            .FirstOrDefault(a =>
                a.IsPlaceholder
                && a.Shape != PlaceholderShapes.AtClick
                && (a.Shape & link.Settings.Live) == 0
                && PercentEncoding.EncodeForSending(a.Text) != a.Text
            );
        if (encoded.Text is { } foreign)
        {
            yield return Notice.Of(
                NoticeRules.PlaceholderForeign,
                null,
                $"“{foreign}” in the page's address looks like a placeholder of a shape this workspace doesn't use, so it is percent-encoded; an owner can change that under Workspace, Link writing."
            );
        }
    }
}
