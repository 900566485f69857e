using System.Net;

namespace PreciseBeacon.Core.Links;

/// <summary>The same link in other forms, ready to paste elsewhere.</summary>
/// <param name="Encoded">The whole URL percent-encoded, for use as a parameter's value.</param>
/// <param name="Html">An HTML anchor with its attribute escaped.</param>
/// <param name="Markdown">A Markdown link.</param>
public sealed record LinkForms(string Encoded, string Html, string Markdown)
{
    /// <summary>Writes the forms of a URL.</summary>
    /// <param name="url">A composed URL, ASCII.</param>
    /// <param name="title">What the link is called; the URL where there is no title.</param>
    public static LinkForms Of(string url, string? title)
    {
        string text = string.IsNullOrWhiteSpace(title) ? url : title;
        string escaped = string.Concat(
            text.Select(c => "\\`*_{}[]()#+-.!<>|".Contains(c, StringComparison.Ordinal) ? $"\\{c}" : c.ToString())
        );
        // Brackets and parentheses would end the Markdown destination; in a URL their encoded forms mean the same.
        string destination = url.Replace("(", "%28", StringComparison.Ordinal).Replace(")", "%29", StringComparison.Ordinal);
        return new LinkForms(
            PercentEncoding.EncodeValue(url),
            $"<a href=\"{WebUtility.HtmlEncode(url)}\">{WebUtility.HtmlEncode(text)}</a>",
            $"[{escaped}]({destination})"
        );
    }
}
