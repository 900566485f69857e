using System.Globalization;

namespace PreciseBeacon.Core.Proofs;

/// <summary>Why visits are missing, in words: what happened, and what to do.</summary>
internal static class GapCauseText
{
    /// <summary>They arrived without the link's tags.</summary>
    /// <param name="visits">How many.</param>
    /// <param name="found">What was found on the way; null for nothing.</param>
    public static string TagsLost(decimal visits, string? found) =>
        $"{Missing(visits)} arrived without the link's tags, or on another page. {found ?? "Try the link: a redirect may drop its tags."}";

    public static string Programs(decimal visits) =>
        $"{Missing(visits)} are of programs that click and never load a page, such as mail scanners. They are missing from nobody.";

    /// <summary>Their page breaks.</summary>
    /// <param name="visits">How many.</param>
    /// <param name="found">How it breaks.</param>
    public static string PageBroken(decimal visits, string found) =>
        $"{Missing(visits)} saw a page that does not answer as it should. {found}";

    public static string NotMeasured(decimal visits) =>
        $"{Missing(visits)} came to a page of which nothing at all was measured. Put the tag of Workspace, Sites into its head.";

    public static string Blocked(decimal visits) =>
        $"{Missing(visits)} were not measured, though others on the page were: their browsers block scripts, ask not to be followed, or were closed before the page stood.";

    public static string Reused(decimal visits) =>
        $"{Missing(visits)} came through the printed code from another page, so somebody put it into a mail or on a site, where programs open it. Give that its own link.";

    /// <summary>So many of the missing visits, as a sentence begins.</summary>
    public static string Missing(decimal visits) => visits == 1 ? "1 of the missing visits" : $"{Number(visits)} of the missing visits";

    /// <summary>A whole number with separators.</summary>
    public static string Number(decimal number) => number.ToString("N0", CultureInfo.InvariantCulture);
}
