using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>Visits of a link without any tags look direct.</summary>
internal static class NoTagsCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.Tagged is { Found.Count: 0 } && link.Fields.All(f => f.Value.Length == 0))
        {
            yield return Notice.Of(
                NoticeRules.NoTags,
                null,
                "The link has no tags at all, so its visits will look direct; choose a placement and a campaign."
            );
        }
    }
}
