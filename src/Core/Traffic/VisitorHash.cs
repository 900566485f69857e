using System.Security.Cryptography;
using System.Text;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Turns what is known about a visitor into a keyed hash; the address itself is written down nowhere. HMAC-SHA-256,
/// cut to 128 bits.
/// </summary>
public static class VisitorHash
{
    /// <summary>Length of a salt in octets.</summary>
    public const int SaltLength = 32;

    /// <summary>A visitor known by network address and user agent, for as long as the salt lives.</summary>
    public static Guid OfAddress(ReadOnlySpan<byte> salt, Guid workspaceId, ReadOnlySpan<byte> address, string userAgent)
    {
        Span<byte> text = stackalloc byte[16 + 16 + (Math.Min(userAgent.Length, 512) * 3)];
        workspaceId.TryWriteBytes(text);
        address.CopyTo(text[16..]);
        int length = 16 + address.Length;
        length += Encoding.UTF8.GetBytes(userAgent.AsSpan(0, Math.Min(userAgent.Length, 512)), text[length..]);
        return Cut(salt, text[..length]);
    }

    /// <summary>A visitor known by the id a site keeps itself.</summary>
    /// <param name="key">The site's own secret, so that ids of two sites never meet.</param>
    /// <param name="id">The id as the site hands it over.</param>
    public static Guid OfSiteId(ReadOnlySpan<byte> key, string id) => Cut(key, Encoding.UTF8.GetBytes(id));

    private static Guid Cut(ReadOnlySpan<byte> key, ReadOnlySpan<byte> text)
    {
        Span<byte> hash = stackalloc byte[32];
        HMACSHA256.HashData(key, text, hash);
        return new Guid(hash[..16]);
    }
}
