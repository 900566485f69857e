using System.Globalization;
using System.Net;
using System.Text;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Plan;

/// <summary>What a partner sees: a plain page without script, and the same as a file.</summary>
public static class PartnerPageHtml
{
    private static readonly string[] Headings = ["Title", "Placement", "Link", "Full address", "Text", "QR link"];

    /// <summary>The page.</summary>
    /// <param name="page">What was handed over.</param>
    /// <param name="workspace">Who hands it over.</param>
    /// <param name="links">The links on it.</param>
    /// <param name="nonce">Lets the page's own style through.</param>
    public static string Draw(PartnerPage page, string workspace, IReadOnlyList<HandedLink> links, string nonce)
    {
        var body = new StringBuilder();
        foreach (var group in links.GroupBy(l => l.Placement))
        {
            body.Append(CultureInfo.InvariantCulture, $"<h2>{E(group.Key)}</h2>");
            foreach (var link in group)
            {
                body.Append(
                    CultureInfo.InvariantCulture,
                    $"<article><div><h3>{E(link.Title)}</h3><dl><dt>Link</dt><dd class=\"take\">{E(link.Share)}</dd>"
                );
                if (link.Share != link.Url)
                {
                    body.Append(CultureInfo.InvariantCulture, $"<dt>Full address</dt><dd class=\"take quiet\">{E(link.Url)}</dd>");
                }

                if (link.Text is { } text)
                {
                    body.Append(CultureInfo.InvariantCulture, $"<dt>Text</dt><dd class=\"take text\">{E(text)}</dd>");
                }

                body.Append("</dl>");
                if (link.Waiting)
                {
                    body.Append("<p class=\"quiet\">This link does not work yet; it waits for an approval.</p>");
                }

                body.Append("</div>");
                if (link.CodeSays is not null)
                {
                    string code = $"/for/{page.Token}/codes/{link.Id}.svg";
                    body.Append(
                        CultureInfo.InvariantCulture,
                        $"<a href=\"{code}\" download><img src=\"{code}\" alt=\"Code for {E(link.Title)}\" width=\"120\" height=\"120\"></a>"
                    );
                }

                body.Append("</article>");
            }
        }

        string files =
            links.Count == 0
                ? "<p>There are no links here yet; come back later; new links appear here.</p>"
                : $"<p>Download all: <a href=\"/for/{page.Token}/links.xlsx\">XLSX</a> or <a href=\"/for/{page.Token}/links.csv\">CSV</a>. Click a link or text below to select it.</p>";
        string note = page.Note is null ? "" : $"<p class=\"note\">{E(page.Note)}</p>";
        string campaign = page.Campaign is null ? "" : $" for {E(page.Campaign.Name)}";
        return $$$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex">
            <link rel="icon" href="data:,"><title>Links for {{{E(page.Name)}}} · {{{E(workspace)}}}</title>
            <style nonce="{{{nonce}}}">:root{color-scheme:light dark}body{margin:0;font:16px/1.5 system-ui,sans-serif;background:#F6F4EF;color:#1E2230}main{max-width:52rem;margin:0 auto;padding:2.5rem 1.25rem}
            h1{font-size:1.5rem;margin:0}h2{font-size:1.1rem;margin:2rem 0 .5rem;border-bottom:1px solid #C9C2B4;padding-bottom:.25rem}h3{font-size:1rem;margin:0 0 .25rem}
            article{display:flex;gap:1.25rem;justify-content:space-between;align-items:flex-start;background:#fff;border:1px solid #E2DDD3;border-radius:4px;padding:1rem;margin:.75rem 0}article>div{min-width:0;flex:1}
            dl{margin:0}dt{font-size:.8rem;color:#625F5A;margin-top:.4rem}dd{margin:0;overflow-wrap:anywhere}.take{font-family:ui-monospace,monospace;font-size:.85rem;user-select:all;-webkit-user-select:all}.text{white-space:pre-wrap;font-family:inherit;font-size:1rem}
            .quiet{color:#625F5A}.note{white-space:pre-wrap;border-left:3px solid #6A2C55;padding-left:.75rem}a{color:#6A2C55}img{background:#fff;display:block}@media(max-width:40rem){article{flex-direction:column}}
            @media(prefers-color-scheme:dark){body{background:#16171C;color:#E8E5DE}article{background:#1E2027;border-color:#33353E}h2{border-color:#44464F}dt,.quiet{color:#A9A59C}a{color:#D99CC2}.note{border-color:#D99CC2}}</style></head>
            <body><main><p class="quiet">{{{E(workspace)}}}</p><h1>Links for {{{E(
                page.Name
            )}}}{{{campaign}}}</h1>{{{note}}}{{{files}}}{{{body}}}</main></body></html>
            """;
    }

    /// <summary>The links as rows of a table, headings first.</summary>
    public static IEnumerable<IReadOnlyList<string>> Rows(IReadOnlyList<HandedLink> links) => links.Select(Cells).Prepend(Headings);

    private static string[] Cells(HandedLink l) => [l.Title, l.Placement, l.Share, l.Url, l.Text ?? "", l.CodeSays ?? ""];

    private static string E(string text) => WebUtility.HtmlEncode(text);
}
