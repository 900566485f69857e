using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;

namespace PreciseBeacon.Core.Mails;

/// <summary>Finds the links of an HTML mail with their places in its source, and writes others there; every other character stays.</summary>
public static partial class MailLinks
{
    private const int LongestText = 200;

    private static readonly HtmlParser Parser = new(new HtmlParserOptions { IsKeepingSourceReferences = true });

    private static readonly string[] ButtonWords = ["button", "btn", "cta"];
    private static readonly string[] HeaderWords = ["header", "masthead", "preheader", "topbar"];
    private static readonly string[] FooterWords = ["footer", "imprint", "legal", "bottombar"];

    /// <summary>Links of a mail in the order of its source.</summary>
    /// <param name="html">The HTML.</param>
    /// <param name="readable">Turns a stretch of it into text as it is read, where the HTML is held as octets; null when it is text already.</param>
    public static IReadOnlyList<MailLink> Find(string html, Func<string, string>? readable = null)
    {
        var found = new List<MailLink>();
        FindIn(html, html, 0, found);

        // Some mail readers take what stands in comments of this form; the rest of the world skips it (common practice).
        foreach (Match comment in ConditionalComment().Matches(html))
        {
            FindIn(html, comment.Groups["html"].Value, comment.Groups["html"].Index, found);
        }

        return
        [
            .. found
                .OrderBy(l => l.Start)
                .Select(
                    (l, i) =>
                        l with
                        {
                            Number = i + 1,
                            Href = readable is null ? l.Href : readable(l.Href),
                            Text = Plain(readable is null ? l.Text : readable(l.Text)),
                        }
                ),
        ];
    }

    /// <summary>The title of a page; null where it has none.</summary>
    public static string? TitleOf(string html)
    {
        using var document = Parser.ParseDocument(html);
        return Plain(document.Title ?? "") is { Length: > 0 } title ? title : null;
    }

    /// <summary>The HTML with other addresses in its links.</summary>
    /// <param name="html">The HTML the links were found in.</param>
    /// <param name="links">Its links.</param>
    /// <param name="addresses">New addresses by number; links that are not named stay as they are.</param>
    public static string Write(string html, IEnumerable<MailLink> links, IReadOnlyDictionary<int, string> addresses)
    {
        foreach (var link in links.Where(l => addresses.ContainsKey(l.Number)).OrderByDescending(l => l.Start))
        {
            html = string.Concat(
                html.AsSpan(0, link.Start),
                Attribute(addresses[link.Number], link.Quote),
                html.AsSpan(link.Start + link.Length)
            );
        }

        return html;
    }

    /// <summary>An address as the value of an attribute; one that had no quotes gets them.</summary>
    public static string Attribute(string address, char? quote)
    {
        string escaped = address.Replace("&", "&amp;", StringComparison.Ordinal);
        return quote switch
        {
            '\'' => escaped.Replace("'", "&#39;", StringComparison.Ordinal),
            '"' => escaped.Replace("\"", "&quot;", StringComparison.Ordinal),
            _ => $"\"{escaped.Replace("\"", "&quot;", StringComparison.Ordinal)}\"",
        };
    }

    private static void FindIn(string whole, string html, int offset, List<MailLink> found)
    {
        using var document = Parser.ParseDocument(html);
        var linked = document
            .All.Where(e => e.HasAttribute("href") && e.LocalName is not "link" and not "base" && e.SourceReference is not null)
            .ToList();
        for (int i = 0; i < linked.Count; i++)
        {
            var element = linked[i];
            if (HrefIn(html, element.SourceReference!.Position.Index) is not var (start, length, quote))
            {
                continue;
            }

            string text = string.IsNullOrWhiteSpace(element.TextContent)
                ? element.QuerySelector("img[alt]")?.GetAttribute("alt") ?? element.GetAttribute("title") ?? ""
                : element.TextContent;
            found.Add(
                new MailLink(
                    0,
                    offset + start,
                    length,
                    quote,
                    element.GetAttribute("href") ?? "",
                    text,
                    PlaceOf(element, offset, whole),
                    ShapeOf(element)
                )
            );
        }
    }

    /// <summary>
    /// The value of the first <c>href</c> in the start tag at a place (HTML standard, 13.2.5.32 to 13.2.5.38); of doubled
    /// attributes the first one counts there too.
    /// </summary>
    private static (int Start, int Length, char? Quote)? HrefIn(string html, int tag)
    {
        int at = tag + 1;
        while (at < html.Length && !IsSpace(html[at]) && html[at] is not '/' and not '>')
        {
            at++;
        }

        while (at < html.Length && html[at] != '>')
        {
            if (IsSpace(html[at]) || html[at] == '/')
            {
                at++;
                continue;
            }

            int name = at++;
            while (at < html.Length && !IsSpace(html[at]) && html[at] is not '/' and not '>' and not '=')
            {
                at++;
            }

            int end = at;
            while (at < html.Length && IsSpace(html[at]))
            {
                at++;
            }

            if (at >= html.Length || html[at] != '=')
            {
                continue;
            }

            at++;
            while (at < html.Length && IsSpace(html[at]))
            {
                at++;
            }

            if (at >= html.Length || html[at] == '>')
            {
                continue;
            }

            char? quote = html[at] is '"' or '\'' ? html[at] : null;
            int start = quote is null ? at : at + 1;
            int stop = start;
            while (stop < html.Length && (quote is null ? !IsSpace(html[stop]) && html[stop] != '>' : html[stop] != quote))
            {
                stop++;
            }

            if (html.AsSpan(name, end - name).Equals("href", StringComparison.OrdinalIgnoreCase))
            {
                return (start, stop - start, quote);
            }

            at = quote is null ? stop : stop + 1;
        }

        return null;
    }

    private static bool IsSpace(char c) => c is ' ' or '\t' or '\n' or '\r' or '\f';

    private static MailShape ShapeOf(IElement link)
    {
        string looks = $"{link.GetAttribute("class")} {link.GetAttribute("role")} {link.GetAttribute("style")}".ToLowerInvariant();
        return string.IsNullOrWhiteSpace(link.TextContent) && link.QuerySelector("img") is not null ? MailShape.Picture
            : ButtonWords.Any(w => looks.Contains(w, StringComparison.Ordinal))
            || looks.Contains("background", StringComparison.Ordinal)
            || link.LocalName.Contains("rect", StringComparison.Ordinal)
                ? MailShape.Button
            : MailShape.Link;
    }

    /// <summary>What stands around a link says where it is; else its share of the way down: the first and the last eighth (ours).</summary>
    private static MailPlace PlaceOf(IElement link, int offset, string html)
    {
        for (var around = link.ParentElement; around is not null; around = around.ParentElement)
        {
            string called = $"{around.LocalName} {around.ClassName} {around.Id}".ToLowerInvariant();
            if (FooterWords.Any(w => called.Contains(w, StringComparison.Ordinal)))
            {
                return MailPlace.Footer;
            }

            if (HeaderWords.Any(w => called.Contains(w, StringComparison.Ordinal)))
            {
                return MailPlace.Header;
            }
        }

        int body = Math.Max(0, html.IndexOf("<body", StringComparison.OrdinalIgnoreCase));
        double down = (offset + link.SourceReference!.Position.Index - body) / (double)Math.Max(1, html.Length - body);
        return down < 0.125 ? MailPlace.Header
            : down > 0.875 ? MailPlace.Footer
            : MailPlace.Body;
    }

    private static string Plain(string text)
    {
        string plain = Spaces().Replace(text, " ").Trim();
        return plain.Length <= LongestText ? plain : plain[..LongestText];
    }

    [GeneratedRegex(
        @"<!--\[if [^\]]*\]>(?<html>(?:(?!-->).)*)<!\[endif\]-->",
        RegexOptions.IgnoreCase | RegexOptions.Singleline | RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: 2_000
    )]
    private static partial Regex ConditionalComment();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();
}
