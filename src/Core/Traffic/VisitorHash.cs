using System.Security.Cryptography;
using System.Text;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Turns what is known about a visitor into a keyed hash of 128 bits; the address itself is written down nowhere.
/// </summary>
public static class VisitorHash
{
    /// <summary>Length of a salt in octets.</summary>
    public const int SaltLength = SipHash.KeyLength;

    /// <summary>A visitor known by network address and user agent, for as long as the salt lives (SipHash).</summary>
    public static Guid OfAddress(ReadOnlySpan<byte> salt, Guid workspaceId, ReadOnlySpan<byte> address, string userAgent)
    {
        Span<byte> text = stackalloc byte[16 + 16 + (Math.Min(userAgent.Length, 512) * 3)];
        workspaceId.TryWriteBytes(text);
        address.CopyTo(text[16..]);
        int length = 16 + address.Length;
        length += Encoding.UTF8.GetBytes(userAgent.AsSpan(0, Math.Min(userAgent.Length, 512)), text[length..]);
        Span<byte> hash = stackalloc byte[16];
        SipHash.Hash(salt, text[..length], hash);
        return new Guid(hash);
    }

    /// <summary>A visitor known by the id a site keeps itself (HMAC-SHA-256, cut to 128 bits).</summary>
    /// <param name="key">The site's own secret, so that ids of two sites never meet.</param>
    /// <param name="id">The id as the site hands it over.</param>
    public static Guid OfSiteId(ReadOnlySpan<byte> key, string id)
    {
        Span<byte> hash = stackalloc byte[HMACSHA256.HashSizeInBytes];
        HMACSHA256.HashData(key, Encoding.UTF8.GetBytes(id), hash);
        return new Guid(hash[..16]);
    }
}
