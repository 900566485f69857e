using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>A link from one of the workspace's pages to another must have no tags: they would overwrite where the visitor came from.</summary>
internal static class InsideSiteCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (
            link.Facts is not { } facts
            || link.Destination is not { } destination
            || !facts.OwnHosts.ContainsKey(destination.HostAndPort)
            || link.Fields.All(f => f.Value.Length == 0)
        )
        {
            yield break;
        }

        if ((link.FoundOn is { } host && facts.OwnHosts.ContainsKey(host)) || facts.OwnHosts.ContainsKey(link.ValueOf(FieldMeaning.Source)))
        {
            yield return Notice.Of(
                NoticeRules.TagInsideSite,
                null,
                "The link leads from one of your pages to another; its tags would overwrite the visitor's real source: use it without tags."
            );
        }
    }
}
