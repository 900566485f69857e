using System.Globalization;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Proofs;

/// <summary>Finds what is wrong on the way to a page (reports, section 5).</summary>
public static class TraceFindings
{
    /// <summary>Longer than this is slow (ours).</summary>
    public const int SlowMilliseconds = 3_000;

    /// <summary>A page with tags may be so many times as long as without them, or so much shorter, and still be the same page (ours).</summary>
    private const double LengthFactor = 2;

    /// <summary>What is wrong, the gravest first, then in the order of the requests.</summary>
    /// <param name="tagged">The way with tags.</param>
    /// <param name="plain">The way without them; null where it was not gone.</param>
    /// <param name="facts">What is known of the workspace's sites.</param>
    public static IReadOnlyList<Finding> Of(PageTrace tagged, PageTrace? plain, TraceFacts facts)
    {
        var found = new List<Finding>();
        if (tagged.Problem is { } problem)
        {
            found.Add(Broken(tagged, problem));
        }
        else if (tagged.Hops[^1].Status is >= 400 and var status)
        {
            found.Add(
                new Finding(
                    FindingRules.ErrorStatus,
                    Severity.Error,
                    $"The page answers {status}{(status >= 500 ? ", an error of its server" : "")}. {(plain?.Hops[^1].Status < 400 && plain?.Problem is null ? "Without tags it answers, so its server stumbles over them; tell whoever runs it." : "Repair the page, or lead the link elsewhere.")}",
                    tagged.Hops.Count
                )
            );
        }

        found.AddRange(OnTheWay(tagged, facts));
        if (tagged.Problem is null && tagged.Hops[^1].Status < 400)
        {
            found.AddRange(OfPage(tagged, plain, facts));
        }

        return [.. found.OrderByDescending(f => f.Severity).ThenBy(f => f.Hop ?? int.MaxValue)];
    }

    private static Finding Broken(PageTrace trace, TraceProblem problem) =>
        problem switch
        {
            TraceProblem.TooSlow => new(
                FindingRules.PageTooSlow,
                Severity.Error,
                $"{trace.Says} Visitors leave before; ask whoever runs the page.",
                trace.Hops.Count
            ),
            TraceProblem.TooManyRedirects => new(
                FindingRules.TooManyRedirects,
                Severity.Error,
                $"{trace.Says} Browsers give up on this; lead the link straight to the page.",
                trace.Hops.Count
            ),
            TraceProblem.CountedLink => new(
                FindingRules.LeadsToShortLink,
                Severity.Warning,
                "The page leads to one of your short links, which would count the visitor again. Lead the link straight to the page.",
                trace.Hops.Count
            ),
            TraceProblem.Unsubscribes => new(
                FindingRules.NotFetched,
                Severity.Info,
                "The address looks as if opening it unsubscribes somebody, so nothing was fetched."
            ),
            _ => new(
                FindingRules.PageUnreachable,
                Severity.Error,
                $"{trace.Says} Check the address, or ask whoever runs the page.",
                trace.Hops.Count
            ),
        };

    private static IEnumerable<Finding> OnTheWay(PageTrace trace, TraceFacts facts)
    {
        var due = facts.TagsOf(trace.Hops[0].Url).Values;
        var missing = new HashSet<string>();
        var changed = new HashSet<string>();
        for (int i = 1; i < trace.Hops.Count; i++)
        {
            var (before, hop) = (new Uri(trace.Hops[i - 1].Url), new Uri(trace.Hops[i].Url));
            var there = facts.TagsOf(trace.Hops[i].Url).Values;
            string[] dropped = [.. due.Keys.Where(k => !there.ContainsKey(k) && missing.Add(k))];
            if (dropped.Length > 0)
            {
                yield return new Finding(
                    FindingRules.TagsDropped,
                    Severity.Error,
                    $"The redirect from {before.Authority}{before.AbsolutePath} to {hop.Authority}{hop.AbsolutePath} drops {string.Join(", ", dropped)}. Lead the link straight to {hop.Authority}{hop.AbsolutePath}, or have the redirect keep what stands behind the “?”.",
                    i
                );
            }

            string[] other =
            [
                .. due.Where(d => there.TryGetValue(d.Key, out string? now) && now != d.Value).Select(d => d.Key).Where(changed.Add),
            ];
            if (other.Length > 0)
            {
                yield return new Finding(
                    FindingRules.TagsChanged,
                    Severity.Error,
                    $"The redirect to {hop.Authority}{hop.AbsolutePath} changes {string.Join(", ", other.Select(k => $"{k} from “{due[k]}” to “{there[k]}”"))}. Have it keep what stands behind the “?”.",
                    i
                );
            }

            if (before.Scheme == Uri.UriSchemeHttps && hop.Scheme == Uri.UriSchemeHttp)
            {
                yield return new Finding(
                    FindingRules.SecureToPlain,
                    Severity.Warning,
                    $"The redirect from {before.Authority} goes from https to http, where browsers say no more where a visitor came from.",
                    i
                );
            }
        }

        var (first, last) = (new Uri(trace.Hops[0].Url), new Uri(trace.Url));
        if (first.Authority != last.Authority && !facts.KnowsHost(last.Authority))
        {
            yield return new Finding(
                FindingRules.OtherHost,
                Severity.Warning,
                $"The link ends on {last.Authority}, which is none of your sites or approved hosts. Check that this is meant.",
                trace.Hops.Count
            );
        }
    }

    private static IEnumerable<Finding> OfPage(PageTrace tagged, PageTrace? plain, TraceFacts facts)
    {
        if (tagged.Milliseconds > SlowMilliseconds)
        {
            yield return new Finding(
                FindingRules.SlowPage,
                Severity.Warning,
                $"The page took {(tagged.Milliseconds / 1000m).ToString("0.0", CultureInfo.InvariantCulture)} seconds to answer; visitors leave while they wait."
            );
        }

        if (
            plain is { Problem: null, Page: { } one }
            && tagged.Page is { } other
            && DifferenceOf(plain, one, tagged, other) is { } difference
        )
        {
            yield return new Finding(
                FindingRules.AnswersDifferently,
                Severity.Warning,
                $"With tags the page answers differently: {difference}. Open it both ways and compare."
            );
        }

        string host = new Uri(tagged.Url).Authority;
        if (tagged.Page is not { } page || facts.SiteOf(host) is not { } site)
        {
            yield break; // a page of somebody else carries no script of ours
        }

        if (page.Keys.Count > 0 && !page.Keys.Contains(site.Key))
        {
            yield return new Finding(
                FindingRules.ScriptOfAnotherSite,
                Severity.Error,
                $"The page's measuring script has the key of another site, so its visits are refused. Copy the tag of “{site.Name}” from Workspace, Sites."
            );
        }
        else if (page.Keys.Count == 0)
        {
            yield return site.MeasuredLately
                ? new Finding(
                    FindingRules.ScriptMissing,
                    Severity.Info,
                    "The measuring script does not stand in the page itself. Its site was measured lately, so something else may load it; step four tells."
                )
                : new Finding(
                    FindingRules.ScriptMissing,
                    Severity.Warning,
                    $"The measuring script is not on the page, and nothing of “{site.Name}” was measured for a week. Put the tag of Workspace, Sites into the page's head."
                );
        }
    }

    private static string? DifferenceOf(PageTrace plain, TracedPage one, PageTrace tagged, TracedPage other) =>
        plain.Hops[^1].Status != tagged.Hops[^1].Status ? $"{tagged.Hops[^1].Status} in place of {plain.Hops[^1].Status}"
        : one.Body == other.Body ? null
        : one.Title != other.Title ? $"its title is “{other.Title}” in place of “{one.Title}”"
        : other.Octets > one.Octets * LengthFactor || other.Octets * LengthFactor < one.Octets
            ? $"it has {Kilobytes(other.Octets)} in place of {Kilobytes(one.Octets)}"
        : null;

    private static string Kilobytes(int octets) => $"{(octets / 1024m).ToString("0.#", CultureInfo.InvariantCulture)} KB";
}

/// <summary>What is known where a page is judged.</summary>
/// <param name="IsTagLike">Which decoded keys are tags.</param>
/// <param name="Sites">The workspace's sites by their hosts, ports where they have one.</param>
/// <param name="ApprovedHosts">Other hosts that links may lead to.</param>
public sealed record TraceFacts(
    Func<string, bool> IsTagLike,
    IReadOnlyDictionary<string, TracedSite> Sites,
    IReadOnlySet<string> ApprovedHosts
)
{
    /// <summary>The tags of an address.</summary>
    public RawTags TagsOf(string url) => DestinationReader.Read(url).Destination is { } page ? RawTags.Of(page, IsTagLike) : RawTags.None;

    /// <summary>The site a host belongs to; null for none.</summary>
    public TracedSite? SiteOf(string host) => Sites.GetValueOrDefault(host);

    /// <summary>Whether links of the workspace may lead to a host.</summary>
    public bool KnowsHost(string host) => Sites.ContainsKey(host) || ApprovedHosts.Contains(host);
}

/// <summary>A site whose page was fetched.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Key">Its measuring key.</param>
/// <param name="MeasuredLately">Any of its pages was measured within seven days (ours).</param>
public sealed record TracedSite(string Name, string Key, bool MeasuredLately);
