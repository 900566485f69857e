using System.Buffers;
using System.Text;

namespace PreciseBeacon.Core.Links;

/// <summary>Percent-encoding by RFC 3986, section 2, with upper-case hexadecimal digits.</summary>
public static class PercentEncoding
{
    private const string UnreservedCharacters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~";

    /// <summary>The unreserved characters of RFC 3986, section 2.3.</summary>
    private static readonly SearchValues<char> Unreserved = SearchValues.Create(UnreservedCharacters);

    /// <summary>Everything that may stand in a URI: unreserved, gen-delims, sub-delims and the percent sign.</summary>
    private static readonly SearchValues<char> AllowedInUri = SearchValues.Create(UnreservedCharacters + ":/?#[]@!$&'()*+,;=%");

    /// <summary>
    /// Encodes a tag's key or value: NFC, then UTF-8, then every octet outside the unreserved characters.
    /// Live placeholders stay as they are.
    /// </summary>
    /// <param name="text">Text without lone surrogates.</param>
    /// <param name="live">The placeholder shapes to leave alone.</param>
    /// <param name="plusForSpace">Writes a space as <c>+</c>, as application/x-www-form-urlencoded reads it.</param>
    public static string EncodeValue(string text, PlaceholderShapes live = PlaceholderShapes.None, bool plusForSpace = false)
    {
        if (text.AsSpan().IndexOfAnyExcept(Unreserved) < 0)
        {
            return text;
        }

        string composed = text.Normalize(NormalizationForm.FormC);
        return Encode(composed, Unreserved, live, plusForSpace);
    }

    /// <summary>
    /// Encodes only what may not stand in a URI at all (non-ASCII, space, <c>" &lt; &gt; \ ^ ` { | }</c>), so that a
    /// page's own address stays byte for byte otherwise. Live placeholders stay as they are.
    /// </summary>
    public static string EncodeForSending(string text, PlaceholderShapes live = PlaceholderShapes.None) =>
        text.AsSpan().IndexOfAnyExcept(AllowedInUri) < 0 ? text : Encode(text, AllowedInUri, live, plusForSpace: false);

    /// <summary>
    /// Decodes a key or value as the URL Standard's form parser does: <c>+</c> is a space, a percent sign without two
    /// hexadecimal digits stays, octets that are no UTF-8 become U+FFFD.
    /// </summary>
    public static string Decode(ReadOnlySpan<char> text)
    {
        if (text.IndexOfAny('%', '+') < 0)
        {
            return text.ToString();
        }

        byte[] octets = ArrayPool<byte>.Shared.Rent(Encoding.UTF8.GetMaxByteCount(text.Length));
        int count = 0;
        int at = 0;
        while (at < text.Length)
        {
            char c = text[at];
            if (c == '%' && at + 2 < text.Length && char.IsAsciiHexDigit(text[at + 1]) && char.IsAsciiHexDigit(text[at + 2]))
            {
                octets[count++] = (byte)((HexValue(text[at + 1]) << 4) | HexValue(text[at + 2]));
                at += 3;
                continue;
            }

            if (c == '+')
            {
                octets[count++] = (byte)' ';
                at++;
                continue;
            }

            int run = 1;
            if (char.IsHighSurrogate(c) && at + 1 < text.Length && char.IsLowSurrogate(text[at + 1]))
            {
                run = 2;
            }

            count += Encoding.UTF8.GetBytes(text.Slice(at, run), octets.AsSpan(count));
            at += run;
        }

        string decoded = Encoding.UTF8.GetString(octets, 0, count);
        ArrayPool<byte>.Shared.Return(octets);
        return decoded;
    }

    private static string Encode(string text, SearchValues<char> allowed, PlaceholderShapes live, bool plusForSpace)
    {
        var result = new StringBuilder(text.Length + 16);
        Span<byte> octets = stackalloc byte[4];
        int at = 0;
        while (at < text.Length)
        {
            int placeholder = Placeholders.MatchAt(text, at, live, out _);
            if (placeholder > 0)
            {
                result.Append(text, at, placeholder);
                at += placeholder;
                continue;
            }

            char c = text[at];
            if (allowed.Contains(c))
            {
                result.Append(c);
                at++;
            }
            else if (c == ' ' && plusForSpace)
            {
                result.Append('+');
                at++;
            }
            else
            {
                Rune.DecodeFromUtf16(text.AsSpan(at), out var rune, out int used);
                int count = rune.EncodeToUtf8(octets);
                foreach (byte octet in octets[..count])
                {
                    result.Append('%').Append(UpperHex(octet >> 4)).Append(UpperHex(octet & 15));
                }

                at += used;
            }
        }

        return result.ToString();
    }

    private static char UpperHex(int digit) => (char)(digit < 10 ? '0' + digit : 'A' + digit - 10);

    private static int HexValue(char digit) => digit <= '9' ? digit - '0' : (digit | 0x20) - 'a' + 10;
}
