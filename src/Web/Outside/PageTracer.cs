using System.IO.Hashing;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using PreciseBeacon.Core.Mails;
using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.Web.Outside;

/// <summary>
/// Goes the way to a page as a browser would, and tells each request. Every connection is judged as <see cref="OutsideReader"/> does; the
/// whole way has one time limit, however slowly something answers, and no more of a page is read than is looked at.
/// </summary>
public sealed class PageTracer(OutsideReader outside, TimeProvider clock)
{
    private const int MostRedirects = 10;
    private const int LargestPage = 2 << 20;
    private const int LongestTitle = 300;
    private const int MostKeys = 10;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);

    /// <summary>Traces one address.</summary>
    /// <param name="url">Where the way begins, as it is sent.</param>
    /// <param name="isCounted">Whether a host, with its port where there is one, is one of the workspace's short domains.</param>
    /// <param name="cancel">Gives up.</param>
    /// <param name="before">Waits before each request until its host may be asked again; null asks at once. What it waits counts for no limit.</param>
    public async Task<PageTrace> TraceAsync(
        string url,
        Func<string, bool> isCounted,
        CancellationToken cancel,
        Func<string, CancellationToken, Task>? before = null
    )
    {
        var hops = new List<TraceHop>();
        if (MailLinkFate.Unsubscribes(url))
        {
            return new PageTrace([new TraceHop(url, null, 0)], null, TraceProblem.Unsubscribes);
        }

        var left = Patience;
        while (true)
        {
            if (before is not null && Uri.TryCreate(url, UriKind.Absolute, out var next))
            {
                await before(next.Authority, cancel);
            }

            using var hurry = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            hurry.CancelAfter(left > TimeSpan.Zero ? left : TimeSpan.Zero);
            long began = clock.GetTimestamp();
            int Taken() => (int)clock.GetElapsedTime(began).TotalMilliseconds;
            try
            {
                var asked = new Uri(url);
                if (isCounted(asked.Authority))
                {
                    hops.Add(new TraceHop(url, null, 0));
                    return new PageTrace(hops, null, TraceProblem.CountedLink);
                }

                using var answer = await outside.AskAsync(asked, hurry.Token);
                int status = (int)answer.StatusCode;
                if (status is >= 300 and < 400 && answer.Headers.Location is { } location)
                {
                    hops.Add(new TraceHop(url, status, Taken()));
                    left -= clock.GetElapsedTime(began);
                    string following = Next(asked, location);
                    if (hops.Count > MostRedirects || hops.Exists(h => h.Url == following))
                    {
                        return new PageTrace(
                            hops,
                            null,
                            TraceProblem.TooManyRedirects,
                            hops.Count > MostRedirects
                                ? $"The way to the page has more than {MostRedirects} redirects."
                                : $"“{following}” redirects in a circle."
                        );
                    }

                    url = following;
                    continue;
                }

                byte[] body = await ReadAsync(answer, hurry.Token);
                hops.Add(new TraceHop(url, status, Taken()));
                return new PageTrace(hops, Look(body));
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                hops.Add(new TraceHop(url, null, Taken()));
                return new PageTrace(hops, null, TraceProblem.TooSlow, $"“{url}” did not answer in time.");
            }
            catch (Exception broken)
                when (broken is HttpRequestException or IOException or UriFormatException or InvalidDataException or NotSupportedException)
            {
                hops.Add(new TraceHop(url, null, Taken()));
                string says = broken.InnerException is OutsideException inner ? inner.Message : $"“{url}” can't be reached.";
                return new PageTrace(hops, null, TraceProblem.Unreachable, says);
            }
        }
    }

    /// <summary>Where a redirect leads; a fragment goes along unless it has its own (RFC 9110, 10.2.2).</summary>
    private static string Next(Uri asked, Uri location)
    {
        var next = new Uri(asked, location);
        return next.Fragment.Length == 0 && asked.Fragment.Length > 0 ? next.AbsoluteUri + asked.Fragment : next.AbsoluteUri;
    }

    private static async Task<byte[]> ReadAsync(HttpResponseMessage answer, CancellationToken cancel)
    {
        await using var body = await answer.Content.ReadAsStreamAsync(cancel);
        using var kept = new MemoryStream();
        byte[] buffer = new byte[1 << 15];
        while (kept.Length < LargestPage && await body.ReadAsync(buffer, cancel) is > 0 and var read)
        {
            kept.Write(buffer, 0, (int)Math.Min(read, LargestPage - kept.Length));
        }

        return kept.ToArray();
    }

    private static TracedPage Look(byte[] body)
    {
        using var stream = new MemoryStream(body);
        using var document = new HtmlParser().ParseDocument(stream);
        string title = string.Join(' ', (document.Title ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return new TracedPage(
            title.Length == 0 ? null
                : title.Length <= LongestTitle ? title
                : title[..LongestTitle],
            body.Length,
            [
                .. document
                    .Scripts.Where(IsOurs)
                    .Select(s => s.GetAttribute("data-key") ?? "")
                    .Where(k => k.Length > 0)
                    .Distinct()
                    .Take(MostKeys),
            ],
            (long)XxHash3.HashToUInt64(body)
        );
    }

    private static bool IsOurs(IHtmlScriptElement script) =>
        script.GetAttribute("src") is { } source
        && (source.EndsWith("/beacon.js", StringComparison.Ordinal) || source.Contains("/beacon/", StringComparison.Ordinal));
}
