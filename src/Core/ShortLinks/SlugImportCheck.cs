using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Another shortener's list, judged line by line before anything is taken over.</summary>
public static class SlugImportCheck
{
    /// <summary>Judges it.</summary>
    /// <param name="lines">Slugs, or whole short addresses, with the pages they lead to, as they stand in the list.</param>
    /// <param name="taken">Slugs of the short domain that lead somewhere already, lower case.</param>
    /// <param name="facts">What is known about hosts.</param>
    /// <returns>What comes of each line, in their order; the second of two lines with one slug clashes.</returns>
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
