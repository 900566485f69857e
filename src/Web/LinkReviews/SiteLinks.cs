using AngleSharp.Html.Parser;
using PreciseBeacon.Core.LinkReviews;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Outside;

namespace PreciseBeacon.Web.LinkReviews;

/// <summary>Collects the links on a site's own pages, as its sitemap lists them.</summary>
public sealed class SiteLinks(OutsideReader outside, SitemapReader sitemaps)
{
    public const int MostPages = 500;
    private const int MostLinks = 50_000;
    private const int AtOnce = 4;
    private const int LargestPage = 2 << 20;

    /// <summary>Reads pages a few at a time.</summary>
    /// <param name="site">The site.</param>
    /// <param name="progress">Told how many pages are read, of how many.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>Each different link of each page, pages read, and what could not be read.</returns>
    /// <exception cref="OutsideException">The sitemap can't be read.</exception>
    public async Task<(List<UsedLink> Links, int Pages, List<string> Problems)> ReadAsync(
        Site site,
        Func<int, int, Task> progress,
        CancellationToken cancel
    )
    {
        var hosts = site.Hosts.Select(h => h.Host).ToHashSet();
        var listed = await sitemaps.ReadAsync(site, cancel);
        var problems = new List<string>();
        if (listed.Count > MostPages)
        {
            problems.Add($"The sitemap lists {listed.Count:N0} pages; the first {MostPages} were read.");
        }

        var pages = listed.Take(MostPages).ToList();
        var links = new List<UsedLink>();
        int read = 0;
        foreach (string[] some in pages.Chunk(AtOnce))
        {
            var found = await Task.WhenAll(
                some.Select(async page =>
                {
                    try
                    {
                        return (
                            Page: page,
                            Links: LinksOf(await outside.FetchAsync(page, hosts.Contains, LargestPage, cancel)),
                            Problem: (string?)null
                        );
                    }
                    catch (OutsideException broken)
                    {
                        return (Page: page, Links: [], Problem: broken.Message);
                    }
                })
            );
            foreach (var (page, onPage, problem) in found)
            {
                read += problem is null ? 1 : 0;
                problems.AddRange(problem is null ? [] : [problem]);
                links.AddRange(onPage.Select(l => new UsedLink(l, page)).Take(MostLinks - links.Count));
            }

            await progress(read, pages.Count);
        }

        return (links, read, problems);
    }

    private static List<string> LinksOf(OutsidePage page)
    {
        using var body = new MemoryStream(page.Body);
        using var document = new HtmlParser().ParseDocument(body);
        var home = new Uri(page.Url);
        var links = new List<string>();
        foreach (var link in document.QuerySelectorAll("a[href],area[href]"))
        {
            string href = (link.GetAttribute("href") ?? "").Trim();

            // A link that names its host stays as it is written, faults and all.
            bool isWhole =
                href.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
                || href.StartsWith("https://", StringComparison.OrdinalIgnoreCase);
            if (isWhole)
            {
                links.Add(href);
            }
            else if (href.Length > 0 && href[0] != '#' && Uri.TryCreate(home, href, out var whole) && whole.Scheme is "http" or "https")
            {
                links.Add(whole.OriginalString);
            }
        }

        return [.. links.Distinct()];
    }
}
