using System.Text;
using AngleSharp.Html.Parser;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Outside;

namespace PreciseBeacon.Web.Plan;

/// <summary>Keeps the pages of the workspace's sites by their titles, from sitemaps and from pasted lists.</summary>
public sealed class PageNames(BeaconDb db, OutsideReader outside, SitemapReader sitemaps, TimeProvider clock)
{
    public const int MostPages = SitemapReader.MostPages;
    private const int MostTitles = 300;
    private const int AtOnce = 4;
    private const int LargestPage = 1 << 20;
    private const int LongestTitle = 300;
    private const int MostProblems = 50;
    private static readonly TimeSpan LongestRead = TimeSpan.FromSeconds(60);

    /// <summary>Reads a site's sitemap, and the titles of its pages that are not known yet.</summary>
    /// <exception cref="OutsideException">The sitemap can't be read.</exception>
    public async Task<PagesRead> ReadSitemapAsync(Site site, CancellationToken cancel)
    {
        var hosts = site.Hosts.Select(h => h.Host).ToHashSet();
        var problems = new List<string>();
        var addresses = await sitemaps.ReadAsync(site, cancel);
        var listed = addresses.Select(a => (Address: a, Title: (string?)null)).ToList();
        var (found, added, rows) = await TakeInAsync(listed, [site], problems, cancel);
        int titled = await ReadTitlesAsync([.. rows.Where(r => r.Title is null).Take(MostTitles)], hosts, problems, cancel);
        await db.SaveChangesAsync(cancel);
        return new PagesRead(found, added, titled, [.. problems.Take(MostProblems)]);
    }

    /// <summary>Takes in a pasted list.</summary>
    public async Task<PagesRead> PasteAsync(string text, CancellationToken cancel)
    {
        var sites = await db.Sites.Include(s => s.Hosts.OrderBy(h => h.Id)).OrderBy(s => s.Name).ToListAsync(cancel);
        var problems = new List<string>();
        var listed = text.Split('\n')
            .Select(l => l.Trim())
            .Where(l => l.Length > 0)
            .Take(MostPages)
            .Select(line =>
            {
                int cut = line.IndexOf('\t', StringComparison.Ordinal) is var tab and >= 0 ? tab : line.IndexOfAny([' ', ';']);
                return cut < 0 ? (line, null) : (line[..cut].Trim(), line[(cut + 1)..].Trim() is { Length: > 0 } title ? title : null);
            })
            .ToList();
        var (found, added, _) = await TakeInAsync(listed, sites, problems, cancel);
        await db.SaveChangesAsync(cancel);
        return new PagesRead(found, added, listed.Count(l => l.Item2 is not null), [.. problems.Take(MostProblems)]);
    }

    private async Task<(int Found, int Added, List<SitePage> Rows)> TakeInAsync(
        IReadOnlyList<(string Address, string? Title)> listed,
        List<Site> sites,
        List<string> problems,
        CancellationToken cancel
    )
    {
        var siteOf = sites.SelectMany(s => s.Hosts.Select(h => (h.Host, Site: s))).ToDictionary(h => h.Host, h => h.Site);
        var known = (await db.SitePages.ToListAsync(cancel)).ToDictionary(p => p.Address);
        var rows = new Dictionary<string, SitePage>();
        int added = 0;
        foreach (var (address, title) in listed)
        {
            var reading = DestinationReader.Read(address.StartsWith('/') ? WithSite(address, sites, known) : address);
            if (reading.Destination is not { } page || !siteOf.TryGetValue(page.HostAndPort, out var site))
            {
                problems.Add(
                    reading.Destination is null ? $"“{address}” isn't a page address." : $"“{address}” is on none of the workspace's sites."
                );
                continue;
            }

            if (!known.TryGetValue(page.Shown, out var row))
            {
                if (known.Count >= MostPages)
                {
                    problems.Add($"A workspace knows at most {MostPages:N0} pages; the rest was skipped.");
                    break;
                }

                row = new SitePage { SiteId = site.Id, Address = page.Shown };
                db.SitePages.Add(row);
                known[page.Shown] = row;
                added++;
            }

            row.SeenAt = clock.GetUtcNow();
            row.Title = title is null ? row.Title : Short(title);
            rows[page.Shown] = row;
        }

        return (rows.Count, added, [.. rows.Values]);
    }

    private async Task<int> ReadTitlesAsync(
        IReadOnlyList<SitePage> rows,
        HashSet<string> hosts,
        List<string> problems,
        CancellationToken cancel
    )
    {
        int titled = 0;
        using var hurry = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        hurry.CancelAfter(LongestRead);
        var read = new (string? Title, string? Problem)[rows.Count];
        try
        {
            await Parallel.ForEachAsync(
                Enumerable.Range(0, rows.Count),
                new ParallelOptions { MaxDegreeOfParallelism = AtOnce, CancellationToken = hurry.Token },
                async (i, stop) =>
                {
                    try
                    {
                        var page = await outside.FetchAsync(rows[i].Address, hosts.Contains, LargestPage, stop);
                        read[i] = (TitleOf(page), null);
                    }
                    catch (OutsideException broken)
                    {
                        read[i] = (null, broken.Message);
                    }
                }
            );
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            problems.Add("Reading the titles took over a minute and was stopped; read the sitemap again to go on.");
        }

        for (int i = 0; i < rows.Count; i++)
        {
            if (read[i].Title is { } title)
            {
                (rows[i].Title, titled) = (title, titled + 1);
            }

            if (read[i].Problem is { } problem)
            {
                problems.Add(problem);
            }
        }

        return titled;
    }

    private static string? TitleOf(OutsidePage page)
    {
        using var body = new MemoryStream(page.Body);
        using var document = new HtmlParser().ParseDocument(body);
        string title = string.Join(' ', (document.Title ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return title.Length == 0 ? null : Short(title);
    }

    private static string Short(string title) =>
        title.Length <= LongestTitle ? title : new StringBuilder(title, 0, LongestTitle - 1, LongestTitle).Append('…').ToString();

    /// <summary>A path alone is on the site that has such a page already, else on the first by name.</summary>
    private static string WithSite(string path, List<Site> sites, Dictionary<string, SitePage> known)
    {
        var addresses = sites.Where(s => s.Hosts.Count > 0).Select(s => $"{SchemeOf(s)}://{s.Hosts[0].Host}{path}").ToList();
        return addresses.Find(known.ContainsKey) ?? addresses.FirstOrDefault() ?? path;
    }

    private static string SchemeOf(Site site) => site.Hosts[0].AnswersHttps ? "https" : "http";
}
