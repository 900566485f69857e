using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Another shortener's list, judged line by line before anything is taken over.</summary>
public static class SlugImportCheck
{
    /// <summary>Judges it.</summary>
    /// <param name="lines">Slugs, or whole short addresses, with the pages they lead to, as they stand in the list.</param>
    /// <param name="taken">Slugs of the short domain that lead somewhere already, lower case.</param>
    /// <param name="facts">What is known about hosts.</param>
    /// <returns>The result of each line, in their order; the second of two lines with one slug clashes.</returns>
    public static IReadOnlyList<SlugImportRow> Judge(
        IReadOnlyList<(string Slug, string Page)> lines,
        IReadOnlySet<string> taken,
        LinkFacts facts
    )
    {
        var seen = new Dictionary<string, int>();
        var looks = new Dictionary<string, string>();
        var judged = new List<SlugImportRow>(lines.Count);
        foreach (var (cell, address) in lines)
        {
            var (slug, problem) = SlugImportCell.Read(cell);
            var page = DestinationReader.Read(address);
            bool twice = problem is null && !seen.TryAdd(slug, judged.Count + 1);
            string look = SlugLooks.Of(slug);
            string? alike = problem is null && !twice && !looks.TryAdd(look, slug) && looks[look] != slug ? looks[look] : null;
            var (outcome, says) =
                problem is not null ? (SlugImportOutcome.Refused, problem)
                : page.Destination is not { } destination
                    ? (SlugImportOutcome.Refused, page.Notices is [var first, ..] ? first.Message : $"“{address}” isn't a web address.")
                : facts.WhyRefused(destination.HostAndPort) is { } refused ? (SlugImportOutcome.Refused, refused)
                : twice ? (SlugImportOutcome.Clash, $"Line {seen[slug]} has the same slug; ours ignore capitals.")
                : taken.Contains(slug) ? (SlugImportOutcome.Clash, $"“{slug}” is already used on this short domain.")
                : !facts.IsOwnOrApproved(destination.HostAndPort)
                    ? (
                        SlugImportOutcome.Waits,
                        $"{destination.HostAndPort} is neither one of your sites nor approved; an owner has to approve it, and until then the short link answers “no such link”."
                    )
                : (
                    SlugImportOutcome.Ready,
                    alike is null ? null : $"It looks like “{alike}”, which leads elsewhere; people may confuse them in print."
                );
            judged.Add(new SlugImportRow(slug.Length == 0 ? cell : slug, outcome, says, page.Destination));
        }

        return judged;
    }
}

/// <summary>A line of another shortener's list, judged.</summary>
/// <param name="Slug">Its slug, lower case; the cell as it stands where there is none in it.</param>
/// <param name="Outcome">Whether it is imported.</param>
/// <param name="Says">Why, or what to look at; null where there is nothing to say.</param>
/// <param name="Page">Where it leads; null where that is no web address.</param>
public sealed record SlugImportRow(string Slug, SlugImportOutcome Outcome, string? Says, Destination? Page);

/// <summary>A short link of another shortener, as a line of its list says it.</summary>
/// <param name="Slug">Lower case; ours ignore case.</param>
/// <param name="Problem">Why it can't be taken over; null when it can.</param>
public sealed record SlugImportCell(string Slug, string? Problem)
{
    /// <summary>Reads a cell with a slug, or with a whole short address, whose last part it is.</summary>
    public static SlugImportCell Read(string cell)
    {
        string text = cell.Trim();
        int scheme = text.IndexOf("://", StringComparison.Ordinal);
        string path = scheme < 0 ? text : text[(scheme + 3)..];
        path = path.Split('?', '#')[0].TrimEnd('/');
        string slug = path[(path.LastIndexOf('/') + 1)..].ToLowerInvariant();
        return scheme >= 0 && !path.Contains('/', StringComparison.Ordinal)
                ? new SlugImportCell("", $"“{text}” is a short domain without a slug.")
            : slug.Length == 0 ? new SlugImportCell("", "There is no slug in this line.")
            : new SlugImportCell(slug, SlugMaker.WhyRefused(slug));
    }
}

/// <summary>The result of a line of another shortener's list.</summary>
public enum SlugImportOutcome
{
    /// <summary>It can be taken over.</summary>
    Ready,

    /// <summary>It can, and leads on once an owner has approved its host.</summary>
    Waits,

    /// <summary>Its slug is somebody else's already.</summary>
    Clash,

    /// <summary>It can't be taken over as it stands.</summary>
    Refused,
}
