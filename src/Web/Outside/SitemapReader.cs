using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Outside;

/// <summary>Reads which pages a site lists, following its sitemaps.</summary>
public sealed class SitemapReader(OutsideReader outside)
{
    public const int MostPages = 50_000;
    private const int MostSitemaps = 20;
    private const int LargestSitemap = 10 << 20;

    /// <summary>Addresses of the site's pages, in the order of its sitemaps.</summary>
    /// <exception cref="OutsideException">A sitemap can't be read.</exception>
    public async Task<List<string>> ReadAsync(Site site, CancellationToken cancel)
    {
        var hosts = site.Hosts.Select(h => h.Host).ToHashSet();
        var first = site.Hosts[0];
        string home = $"{(first.AnswersHttps ? "https" : "http")}://{first.Host}";
        var waiting = new Queue<string>([$"{home}/sitemap.xml"]);
        var seen = new HashSet<string>();
        var addresses = new List<string>();
        while (waiting.TryDequeue(out string? next) && seen.Count < MostSitemaps && addresses.Count < MostPages)
        {
            if (seen.Add(next))
            {
                var (pages, sitemaps) = Sitemap.Read((await outside.FetchAsync(next, hosts.Contains, LargestSitemap, cancel)).Body);
                addresses.AddRange(pages);
                sitemaps.ToList().ForEach(waiting.Enqueue);
            }
        }

        return [.. addresses.Take(MostPages)];
    }
}
