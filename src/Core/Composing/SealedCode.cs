using System.Security.Cryptography;
using System.Text;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Core.Composing;

/// <summary>
/// The opaque code of a sealed link: a keyed hash of its values, so that equal values have one code, and nobody without
/// the workspace's key can tell or guess them (HMAC-SHA-256, RFC 2104).
/// </summary>
public static class SealedCode
{
    /// <summary>Characters of a code: 14 of 21 are 61 bits, so two of a million links meet with a chance of 1 in 6 million.</summary>
    public const int Length = 14;

    private const char Between = '\u001f';
    private const char After = '\u001e';

    /// <summary>The code of written values by field key; empty when none has one.</summary>
    /// <exception cref="InvalidOperationException">The workspace has no sealing key.</exception>
    public static string Of(IReadOnlyDictionary<string, string> values, LinkSettings settings)
    {
        var text = new StringBuilder();
        foreach (var (field, value) in values.Where(v => v.Value.Length > 0).OrderBy(v => v.Key, StringComparer.Ordinal))
        {
            text.Append(field).Append(Between).Append(value).Append(After);
        }

        if (text.Length == 0)
        {
            return "";
        }

        byte[] key = Convert.FromBase64String(
            settings.SealingSecret ?? throw new InvalidOperationException("The workspace has no key to seal links with.")
        );
        byte[] hash = HMACSHA256.HashData(key, Encoding.UTF8.GetBytes(text.ToString()));
        ulong number = BitConverter.ToUInt64(hash);
        return string.Create(Length, number, static (code, rest) =>
        {
            for (int i = 0; i < code.Length; i++)
            {
                code[i] = SlugMaker.Alphabet[(int)(rest % (ulong)SlugMaker.Alphabet.Length)];
                rest /= (ulong)SlugMaker.Alphabet.Length;
            }
        });
    }
}
