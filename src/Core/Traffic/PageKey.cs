using System.IO.Hashing;
using System.Text;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// A short key of a page, kept with a hit: which page its answer led to, whatever becomes of the link later. Two pages with the
/// same key among a visitor's two minutes are not to be expected (64 bits, XXH3).
/// </summary>
public static class PageKey
{
    /// <summary>The key where the page is not known.</summary>
    public const long Unknown = 0;

    /// <summary>Key of a page written as host, port and path; see <see cref="Destination.Page"/>.</summary>
    public static long Of(string page) => (long)XxHash3.HashToUInt64(Encoding.UTF8.GetBytes(page)) is var key and not Unknown ? key : 1;

    /// <summary>Key of the page an address leads to.</summary>
    /// <param name="address">An address as it is sent, ASCII; null for none.</param>
    public static long OfAddress(string? address)
    {
        if (address is null || UriParts.Split(address) is not { Authority: { } authority, Path: var path } parts)
        {
            return Unknown;
        }

        // Browsers leave the scheme's own port out of the address they report (URL Standard, 4.4).
        string usual = parts.Scheme == "https" ? ":443" : ":80";
        string host = authority.EndsWith(usual, StringComparison.Ordinal) ? authority[..^usual.Length] : authority;
        return Of(host + (path.Length == 0 ? "/" : path));
    }
}
