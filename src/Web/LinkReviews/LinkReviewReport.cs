using System.Globalization;
using System.Net;
using System.Text;
using PreciseBeacon.Core.LinkReviews;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.LinkReviews;

/// <summary>A link review as one page to be printed: the counts, the notices by rule, then every link that is not right.</summary>
public static class LinkReviewReport
{
    private const int LongestLink = 600;

    /// <summary>The page.</summary>
    /// <param name="review">The link review.</param>
    /// <param name="workspace">Whose it is.</param>
    /// <param name="faulty">Its links that are not right, in order.</param>
    /// <param name="left">How many more there are than fit into a report.</param>
    /// <param name="nonce">Lets the page's own style through.</param>
    public static string Draw(LinkReviewAnswer review, string workspace, IReadOnlyList<LinkReviewLinkAnswer> faulty, int left, string nonce)
    {
        var body = new StringBuilder();
        int total = review.Right + review.Mended + review.Stuck;
        string pages = review.Pages is { } read ? $" on {N(read)} pages" : "";
        body.Append(
            CultureInfo.InvariantCulture,
            $"<p>{N(total)} links{pages}: {N(review.Right)} right, {N(review.Mended)} repaired, {N(review.Stuck)} to decide.</p>"
        );
        if (review.Rules.Count > 0)
        {
            body.Append(
                "<h2>Notices</h2><table><thead><tr><th>Rule</th><th class=\"n\">Links</th><th class=\"n\">Repaired</th><th>What it checks</th></tr></thead><tbody>"
            );
            foreach (var rule in review.Rules)
            {
                body.Append(
                    CultureInfo.InvariantCulture,
                    $"<tr><td>{E(rule.Rule.Replace('-', ' '))}</td><td class=\"n\">{N(rule.Links)}</td><td class=\"n\">{N(rule.Mended)}</td><td>{E(rule.Meaning)}</td></tr>"
                );
            }

            body.Append("</tbody></table>");
        }

        Part("To decide", faulty.Where(l => l.State == LinkReviewState.Stuck).ToList());
        Part("Mended", faulty.Where(l => l.State == LinkReviewState.Mended).ToList());
        if (left > 0)
        {
            body.Append(CultureInfo.InvariantCulture, $"<p>{N(left)} more links are not shown here; the sheet has all of them.</p>");
        }

        foreach (string problem in review.Problems)
        {
            body.Append(CultureInfo.InvariantCulture, $"<p class=\"quiet\">{E(problem)}</p>");
        }

        return $$$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><link rel="icon" href="data:,"><title>LinkReview of {{{E(
                review.Name
            )}}}</title>
            <style nonce="{{{nonce}}}">body{margin:0;font:14px/1.45 system-ui,sans-serif;background:#fff;color:#1E2230}main{max-width:60rem;margin:0 auto;padding:2rem 1.25rem}h1{font-size:1.4rem;margin:0}h2{font-size:1.05rem;margin:1.6rem 0 .4rem}
            table{border-collapse:collapse;width:100%;table-layout:auto}th,td{text-align:left;vertical-align:top;padding:.3rem .8rem .3rem 0;border-bottom:1px solid #E2DDD3}th{font-size:.8rem;color:#625F5A;font-weight:500}.n{text-align:right;font-variant-numeric:tabular-nums}
            code{font:.78rem/1.4 ui-monospace,monospace;overflow-wrap:anywhere}.quiet{color:#625F5A}li{margin:.5rem 0;break-inside:avoid}ol{padding-left:2.2rem}li p{margin:.1rem 0}@page{margin:16mm}</style></head>
            <body><main><p class="quiet">{{{E(workspace)}}} · {{{review.CreatedAt.ToString(
                "d MMMM yyyy",
                CultureInfo.InvariantCulture
            )}}} · {{{E(review.CreatedBy)}}} · version {{{review.ConventionVersion}}} of the convention</p><h1>Link review of {{{E(
                review.Name
            )}}}</h1>{{{body}}}</main></body></html>
            """;

        void Part(string title, List<LinkReviewLinkAnswer> links)
        {
            if (links.Count == 0)
            {
                return;
            }

            body.Append(CultureInfo.InvariantCulture, $"<h2>{title}</h2><ol>");
            foreach (var link in links)
            {
                body.Append(CultureInfo.InvariantCulture, $"<li value=\"{link.Number}\"><code>{E(Short(link.Link))}</code>");
                body.Append(link.FoundOn is null ? "" : $"<p class=\"quiet\">on {E(link.FoundOn)}</p>")
                    .Append(string.Concat(link.Says.Select(s => $"<p>{E(s)}</p>")));
                body.Append(link.MendedUrl is null ? "" : $"<p>→ <code>{E(Short(link.MendedUrl))}</code></p>").Append("</li>");
            }

            body.Append("</ol>");
        }
    }

    private static string Short(string link) => link.Length <= LongestLink ? link : $"{link[..LongestLink]} …";

    private static string N(int number) => number.ToString("N0", CultureInfo.InvariantCulture);

    private static string E(string text) => WebUtility.HtmlEncode(text);
}
