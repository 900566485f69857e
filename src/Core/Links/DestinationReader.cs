using System.Buffers;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Links;

/// <summary>Decides whether a typed address may be sent to. Only web addresses are; each refusal says why.</summary>
public static class DestinationReader
{
    private static readonly SearchValues<char> AfterPort = SearchValues.Create("/?#");

    /// <summary>Reads an address as a person typed or pasted it.</summary>
    public static DestinationReading Read(string typed)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var notices = new List<Notice>();
        string text = InvisibleText.TrimEnds(typed);
        if (text.Length != typed.Length)
        {
            notices.Add(
                Notice.Of(NoticeRules.AddressTrimmed, null, "White space or invisible characters around the address were removed.")
            );
        }

        if (text.Length == 0)
        {
            return Refused("There is no address yet; paste the address of the landing page.");
        }

        string? broken = WhyBroken(text);
        if (broken is not null)
        {
            return Refused(broken);
        }

        string? withScheme = AddScheme(text, notices, out string? refusal);
        if (withScheme is null)
        {
            return Refused(refusal!);
        }

        var parts = UriParts.Split(withScheme);
        string scheme = parts.Scheme!.ToLowerInvariant();
        if (parts.Authority is null)
        {
            return Refused($"After “{parts.Scheme}:” two slashes are missing; write {scheme}://host/page.");
        }

        if (parts.Authority.Contains('@', StringComparison.Ordinal))
        {
            return Refused("The address has a user name before an @, which can disguise where it leads; remove everything up to the @.");
        }

        if (parts.Authority.Contains('\\', StringComparison.Ordinal) || parts.Path.Contains('\\', StringComparison.Ordinal))
        {
            return Refused("The address has a backslash, which browsers read as a slash; write / instead.");
        }

        if (!SplitPort(parts.Authority, out string hostText, out string? port))
        {
            return Refused("The port is not a number from 0 to 65535; correct or remove what follows the last colon of the host.");
        }

        var host = HostName.Read(hostText, out string? badHost);
        if (host is null)
        {
            return Refused(badHost!);
        }

        if (text.EnumerateRunes().Any(InvisibleText.IsInvisible) && InvisibleText.Remove(text) is var visible && visible != text)
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.InvisibleInAddress,
                    null,
                    "The address has an invisible character inside, which usually comes from copying; remove it unless the page needs it.",
                    new Repair(null, visible, "Remove it")
                )
            );
        }

        return new DestinationReading(new Destination(scheme, host, port, parts.Path, parts.Query, parts.Fragment), notices);

        DestinationReading Refused(string why)
        {
            notices.Add(Notice.Of(NoticeRules.DestinationRefused, null, why));
            return new DestinationReading(null, notices);
        }
    }

    private static string? WhyBroken(string text)
    {
        for (int i = 0; i < text.Length; i++)
        {
            char c = text[i];
            if (char.IsControl(c))
            {
                return "The address has a line break, tab or other control character inside; paste it again as one line.";
            }

            if (char.IsHighSurrogate(c) && i + 1 < text.Length && char.IsLowSurrogate(text[i + 1]))
            {
                i++;
            }
            else if (char.IsSurrogate(c))
            {
                return "The address has half of a character inside; copy it again from its source.";
            }
        }

        return null;
    }

    private static string? AddScheme(string text, List<Notice> notices, out string? refusal)
    {
        refusal = null;
        if (text.StartsWith("//", StringComparison.Ordinal))
        {
            SayAdded(notices);
            return "https:" + text;
        }

        int colon = SchemeEnd(text);
        if (colon < 0)
        {
            SayAdded(notices);
            return "https://" + text;
        }

        string scheme = text[..colon].ToLowerInvariant();
        if (scheme is "http" or "https")
        {
            return text;
        }

        if (IsPort(text.AsSpan(colon + 1)))
        {
            SayAdded(notices);
            return "https://" + text;
        }

        refusal = $"“{scheme}:” is not a web address; only http and https pages can be measured.";
        return null;
    }

    private static void SayAdded(List<Notice> notices) =>
        notices.Add(Notice.Of(NoticeRules.SchemeAdded, null, "The address had no scheme; https:// was put before it."));

    /// <summary>Place of the colon that ends a scheme (RFC 3986, section 3.1), or -1.</summary>
    private static int SchemeEnd(string text)
    {
        for (int i = 0; i < text.Length; i++)
        {
            char c = text[i];
            if (c == ':')
            {
                return i > 0 ? i : -1;
            }

            if (!(char.IsAsciiLetter(c) || (i > 0 && (char.IsAsciiDigit(c) || c is '+' or '-' or '.'))))
            {
                return -1;
            }
        }

        return -1;
    }

    /// <summary>True when what follows a colon is digits up to the end of the authority: a port, not a scheme's rest.</summary>
    private static bool IsPort(ReadOnlySpan<char> rest)
    {
        int end = rest.IndexOfAny(AfterPort);
        var digits = end < 0 ? rest : rest[..end];
        return digits.Length > 0 && digits.IndexOfAnyExceptInRange('0', '9') < 0;
    }

    private static bool SplitPort(string authority, out string host, out string? port)
    {
        host = authority;
        port = null;
        int bracket = authority.LastIndexOf(']');
        int colon = authority.LastIndexOf(':');
        if (colon <= bracket)
        {
            return true;
        }

        host = authority[..colon];
        string digits = authority[(colon + 1)..];
        if (digits.Length == 0)
        {
            return true; // RFC 3986, section 3.2.3: an empty port may be left out with its colon
        }

        port = digits;
        return digits.Length <= 5
            && digits.All(char.IsAsciiDigit)
            && int.Parse(digits, System.Globalization.CultureInfo.InvariantCulture) <= 65535;
    }
}
