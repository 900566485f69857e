using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.LinkReviews;

/// <summary>A link in use, judged by the convention that holds (ours).</summary>
/// <param name="State">What came of it.</param>
/// <param name="MendedUrl">The link with all that can be mended by itself; null for one that is right, or of which nothing can.</param>
/// <param name="Notices">Notices, gravest first. Notes stand alone only where nothing graver is said and the link changes.</param>
public sealed record LinkReviewJudgement(LinkReviewState State, string? MendedUrl, IReadOnlyList<Notice> Notices)
{
    /// <summary>The link that reading a link back gives, where it would be another one; null otherwise.</summary>
    /// <param name="url">The link as it was found.</param>
    /// <param name="inspected">What reading it back gave.</param>
    public static string? MendedOf(string url, InspectedLink inspected) =>
        inspected.Mended?.Tagged?.Url is { } mended && mended != url.Trim() && inspected.Notices.All(n => n.Rule != NoticeRules.NoTags.Name)
            ? mended
            : null;

    /// <summary>Judges a link.</summary>
    /// <param name="url">The link as it was found.</param>
    /// <param name="inspected">What reading it back gave.</param>
    /// <param name="mended">What reading <see cref="MendedOf"/> back gave; null when there is none.</param>
    public static LinkReviewJudgement Of(string url, InspectedLink inspected, InspectedLink? mended)
    {
        var grave = GraveOf(inspected);
        string? better = MendedOf(url, inspected);
        if (better is null)
        {
            return grave.Count == 0
                ? new LinkReviewJudgement(LinkReviewState.Right, null, [])
                : new LinkReviewJudgement(LinkReviewState.Stuck, null, grave);
        }

        // Mended is only what nothing grave is said about any more; an invisible character is merely encoded, which no rule sees.
        var notices = grave.Count > 0 ? grave : [.. inspected.Notices.Where(IsAboutTheLink)];
        bool isMended = mended is not null && GraveOf(mended).Count == 0 && grave.All(n => n.Rule != NoticeRules.InvisibleInAddress.Name);
        return new LinkReviewJudgement(isMended ? LinkReviewState.Mended : LinkReviewState.Stuck, better, notices);
    }

    private static List<Notice> GraveOf(InspectedLink link) =>
        [.. link.Notices.Where(n => n.Severity != Severity.Info && IsAboutTheLink(n))];

    /// <summary>That the same link exists says nothing against one that is in use.</summary>
    private static bool IsAboutTheLink(Notice notice) => notice.Rule != NoticeRules.SameAsExisting.Name;
}

/// <summary>What came of looking at a link that is in use.</summary>
public enum LinkReviewState
{
    /// <summary>It is as the convention wants it.</summary>
    Right,

    /// <summary>It is faulty, and the mended link is beside it.</summary>
    Mended,

    /// <summary>It is faulty, and somebody has to decide.</summary>
    Stuck,
}
