namespace PreciseBeacon.Core.Links;

/// <summary>
/// The five components of a URI reference as text, split as RFC 3986, Appendix B does and never normalised:
/// <c>^(([^:/?#]+):)?(//([^/?#]*))?([^?#]*)(\?([^#]*))?(#(.*))?</c>.
/// Null means the component is absent; an empty text means its delimiter stands there with nothing after it.
/// </summary>
public sealed record UriParts(string? Scheme, string? Authority, string Path, string? Query, string? Fragment)
{
    /// <summary>Splits any text; every text has a split.</summary>
    public static UriParts Split(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        ReadOnlySpan<char> rest = text;
        string? fragment = CutAt(ref rest, '#');
        string? query = CutAt(ref rest, '?');

        string? scheme = null;
        int mark = rest.IndexOfAny(':', '/');
        if (mark > 0 && rest[mark] == ':')
        {
            scheme = rest[..mark].ToString();
            rest = rest[(mark + 1)..];
        }

        string? authority = null;
        if (rest.StartsWith("//", StringComparison.Ordinal))
        {
            rest = rest[2..];
            int slash = rest.IndexOf('/');
            int end = slash < 0 ? rest.Length : slash;
            authority = rest[..end].ToString();
            rest = rest[end..];
        }

        return new UriParts(scheme, authority, rest.ToString(), query, fragment);
    }

    /// <summary>Puts the parts together again as RFC 3986, section 5.3 does; gives back exactly the text that was split.</summary>
    public override string ToString() =>
        string.Concat([
            Scheme is null ? "" : Scheme + ":",
            Authority is null ? "" : "//" + Authority,
            Path,
            Query is null ? "" : "?" + Query,
            Fragment is null ? "" : "#" + Fragment,
        ]);

    private static string? CutAt(ref ReadOnlySpan<char> text, char delimiter)
    {
        int at = text.IndexOf(delimiter);
        if (at < 0)
        {
            return null;
        }

        string tail = text[(at + 1)..].ToString();
        text = text[..at];
        return tail;
    }
}
