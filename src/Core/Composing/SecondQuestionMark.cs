using System.Text;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>
/// Mends a query in which somebody began the tags with a question mark although there was one already. A question mark is legal
/// in a query (RFC 3986, section 3.4) and often belongs to an address inside a value, so only those are mended that a key of the
/// convention or a near misspelling of one follows; what stands before them stays as it is.
/// </summary>
internal static class SecondQuestionMark
{
    /// <summary>The query with an ampersand in place of each such question mark; null when there is none.</summary>
    public static string? Mend(string query, Convention convention)
    {
        StringBuilder? mended = null;
        for (int at = query.IndexOf('?', StringComparison.Ordinal); at >= 0; at = query.IndexOf('?', at + 1))
        {
            int end = query.AsSpan(at + 1).IndexOfAny('=', '&', '?');
            bool isKey =
                end > 0
                && query[at + 1 + end] == '='
                && convention.KeyMeant(new Links.RawPair(query.Substring(at + 1, end)).Key) is not null;
            if (isKey)
            {
                (mended ??= new StringBuilder(query))[at] = '&';
            }
        }

        return mended?.ToString();
    }
}
