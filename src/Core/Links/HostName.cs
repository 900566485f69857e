using System.Globalization;
using System.Net;
using System.Net.Sockets;

namespace PreciseBeacon.Core.Links;

/// <summary>A host as people read it and as it is sent.</summary>
/// <param name="Shown">With Unicode labels.</param>
/// <param name="Ascii">In ASCII form (UTS #46, non-transitional), lower case; IPv6 addresses keep their brackets.</param>
public sealed record HostName(string Shown, string Ascii)
{
    private static readonly IdnMapping Mapping = new() { UseStd3AsciiRules = false, AllowUnassigned = false };

    /// <summary>Accepts a host, or says in one sentence why it can't be one.</summary>
    /// <param name="text">The host alone, without port or user.</param>
    /// <param name="refusal">The reason, or null when a host is returned.</param>
    public static HostName? Read(string text, out string? refusal)
    {
        refusal = null;
        if (text.Length == 0)
        {
            refusal = "The address has no host; write it as https://host/page.";
            return null;
        }

        if (text[0] == '[')
        {
            bool valid =
                text[^1] == ']'
                && !text.Contains('%', StringComparison.Ordinal)
                && IPAddress.TryParse(text, out var address)
                && address.AddressFamily == AddressFamily.InterNetworkV6;
            refusal = valid ? null : $"{text} is not an IPv6 address; check the digits between the brackets.";
            return valid ? new HostName(text, text) : null;
        }

        string? ascii = ToAscii(text);
        if (ascii is null)
        {
            refusal = $"“{text}” is not a host name; use letters, digits, hyphens and dots.";
            return null;
        }

        string[] labels = ascii.TrimEnd('.').Split('.');
        if (EndsInNumber(labels[^1]))
        {
            if (!IsPlainIPv4(labels))
            {
                refusal =
                    $"“{text}” is a network address written in an unusual way; write it as four decimal numbers, or use the host's name.";
                return null;
            }
        }
        else if (labels.Length == 1 && ascii != "localhost")
        {
            refusal = $"“{text}” has no dot, so it is not a host on the web; write the whole name, such as {ascii}.example.";
            return null;
        }

        return new HostName(ToUnicode(ascii), ascii);
    }

    private static string? ToAscii(string text)
    {
        try
        {
            string ascii = IsLowerPlain(text) ? text : Mapping.GetAscii(text).ToLowerInvariant();
            if (ascii.Length > 254 || ascii[0] == '.')
            {
                return null;
            }

            foreach (string label in ascii.TrimEnd('.').Split('.'))
            {
                bool valid = label.Length is > 0 and <= 63 && label.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_');
                if (!valid || (label.StartsWith("xn--", StringComparison.Ordinal) && Mapping.GetUnicode(label) == label))
                {
                    return null;
                }
            }

            return ascii;
        }
        catch (ArgumentException)
        {
            return null;
        }
    }

    private static string ToUnicode(string ascii) => ascii.Contains("xn--", StringComparison.Ordinal) ? Mapping.GetUnicode(ascii) : ascii;

    private static bool IsLowerPlain(string text) =>
        text.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c is '.' or '-' or '_');

    /// <summary>The URL Standard's "ends in a number": such a host would be taken for an IPv4 address in some base.</summary>
    private static bool EndsInNumber(string label) =>
        label.All(char.IsAsciiDigit) || (label.StartsWith("0x", StringComparison.Ordinal) && label.Skip(2).All(char.IsAsciiHexDigit));

    private static bool IsPlainIPv4(string[] labels) =>
        labels.Length == 4
        && labels.All(l =>
            l.Length is > 0 and <= 3
            && l.All(char.IsAsciiDigit)
            && (l.Length == 1 || l[0] != '0')
            && int.Parse(l, CultureInfo.InvariantCulture) <= 255
        );
}
