using System.Buffers.Text;
using System.Net;
using System.Text;

namespace PreciseBeacon.Core.Traffic.AccessLogs;

/// <summary>
/// A line of an access log in the combined format, <c>%h %l %u %t "%r" %&gt;s %b "%{Referer}i" "%{User-agent}i"</c> (Apache HTTP Server
/// documentation, Log Files, Combined Log Format), also with the host it was asked of in front (<c>%v:%p</c>). Only cut into its parts;
/// text is made of them when it is asked for.
/// </summary>
public readonly ref struct CombinedLogLine
{
    private static ReadOnlySpan<byte> Months => "JanFebMarAprMayJunJulAugSepOctNovDec"u8;

    /// <summary>The client: an address, or its name where the server looks names up.</summary>
    public ReadOnlySpan<byte> Client { get; private init; }

    /// <summary>The host that was asked, with its port where it is told; empty where the line does not say.</summary>
    public ReadOnlySpan<byte> Host { get; private init; }

    /// <summary>When it was asked, as the server wrote it down.</summary>
    public DateTimeOffset At { get; private init; }

    /// <summary>GET, HEAD and so on; empty where the request line was empty.</summary>
    public ReadOnlySpan<byte> Method { get; private init; }

    /// <summary>What was asked for: a path with its query, or a whole address. Escaped as it stands in the line.</summary>
    public ReadOnlySpan<byte> Target { get; private init; }

    /// <summary>The status of the answer (RFC 9110 §15).</summary>
    public int Status { get; private init; }

    /// <summary>The referrer; empty for none. Escaped as it stands in the line.</summary>
    public ReadOnlySpan<byte> Referrer { get; private init; }

    /// <summary>The user agent; empty for none. Escaped as it stands in the line.</summary>
    public ReadOnlySpan<byte> UserAgent { get; private init; }

    /// <summary>Cuts a line into its parts.</summary>
    /// <param name="line">The line without its end.</param>
    /// <param name="read">Its parts.</param>
    /// <returns>False for a line that is in another format.</returns>
    public static bool TryRead(ReadOnlySpan<byte> line, out CombinedLogLine read)
    {
        read = default;
        int time = line.IndexOf(" ["u8);
        if (time < 0 || !TryReadClient(line[..time], out var host, out var client))
        {
            return false;
        }

        var rest = line[(time + 2)..];
        int end = rest.IndexOf((byte)']');
        if (
            end < 0
            || !TryReadTime(rest[..end], out var at)
            || !TryReadQuoted(rest[(end + 1)..], out var request, out rest)
            || !TryReadWord(ref rest, out var status)
            || !Utf8Parser.TryParse(status, out int code, out int length)
            || length != status.Length
            || code is < 100 or > 999
            || !TryReadWord(ref rest, out _)
            || !TryReadQuoted(rest, out var referrer, out rest)
            || !TryReadQuoted(rest, out var userAgent, out _)
        )
        {
            return false;
        }

        int space = request.IndexOf((byte)' ');
        int protocol = request.LastIndexOf(" HTTP/"u8);
        read = new CombinedLogLine
        {
            Client = client,
            Host = host,
            At = at,
            Method = space < 0 ? default : request[..space],
            Target =
                space < 0 ? default
                : protocol > space ? request[(space + 1)..protocol]
                : request[(space + 1)..],
            Status = code,
            Referrer = NoneIfDash(referrer),
            UserAgent = NoneIfDash(userAgent),
        };
        return true;
    }

    /// <summary>
    /// A part as text. What the server could not write down as it is stands behind a backslash: quotes, backslashes, white space in its
    /// C form, and other octets as <c>\xhh</c> (Apache HTTP Server documentation, mod_log_config, Format Notes). Octets are UTF-8; those
    /// that are not become U+FFFD.
    /// </summary>
    public static string TextOf(ReadOnlySpan<byte> part)
    {
        if (!part.Contains((byte)'\\'))
        {
            return Encoding.UTF8.GetString(part);
        }

        byte[] octets = new byte[part.Length];
        int length = 0;
        for (int i = 0; i < part.Length; i++)
        {
            if (part[i] != '\\' || i + 1 == part.Length)
            {
                octets[length++] = part[i];
                continue;
            }

            byte next = part[++i];
            if (
                next == 'x'
                && i + 2 < part.Length
                && Utf8Parser.TryParse(part.Slice(i + 1, 2), out byte octet, out int used, 'x')
                && used == 2
            )
            {
                octets[length++] = octet;
                i += 2;
            }
            else
            {
                octets[length++] = next switch
                {
                    (byte)'n' => (byte)'\n',
                    (byte)'r' => (byte)'\r',
                    (byte)'t' => (byte)'\t',
                    (byte)'b' => (byte)'\b',
                    (byte)'f' => (byte)'\f',
                    (byte)'v' => (byte)'\v',
                    _ => next,
                };
            }
        }

        return Encoding.UTF8.GetString(octets.AsSpan(0, length));
    }

    /// <summary>The client comes first; where another word stands before it that is no address, that is the host that was asked.</summary>
    private static bool TryReadClient(ReadOnlySpan<byte> head, out ReadOnlySpan<byte> host, out ReadOnlySpan<byte> client)
    {
        host = default;
        client = default;
        if (!TryReadWord(ref head, out var first) || !TryReadWord(ref head, out var second) || !TryReadWord(ref head, out _))
        {
            return false;
        }

        bool hostStands = !head.IsEmpty && IPAddress.TryParse(second, out _) && !IPAddress.TryParse(first, out _);
        host = hostStands ? first : default;
        client = hostStands ? second : first;
        return true;
    }

    /// <summary>A word up to the next space, or to the end.</summary>
    private static bool TryReadWord(scoped ref ReadOnlySpan<byte> rest, out ReadOnlySpan<byte> word)
    {
        rest = rest.TrimStart((byte)' ');
        int space = rest.IndexOf((byte)' ');
        word = space < 0 ? rest : rest[..space];
        rest = space < 0 ? default : rest[space..];
        return word.Length > 0;
    }

    /// <summary>What stands in the next pair of quotes; one behind a backslash does not end it.</summary>
    private static bool TryReadQuoted(ReadOnlySpan<byte> from, out ReadOnlySpan<byte> inside, out ReadOnlySpan<byte> rest)
    {
        from = from.TrimStart((byte)' ');
        inside = default;
        rest = default;
        if (from.IsEmpty || from[0] != '"')
        {
            return false;
        }

        for (int i = 1; i < from.Length; i++)
        {
            int next = from[i..].IndexOfAny((byte)'"', (byte)'\\');
            if (next < 0)
            {
                return false;
            }

            i += next;
            if (from[i] == '"')
            {
                inside = from[1..i];
                rest = from[(i + 1)..];
                return true;
            }

            // What follows a backslash is passed over.
            i++;
        }

        return false;
    }

    /// <summary><c>10/Oct/2000:13:55:36 -0700</c>.</summary>
    private static bool TryReadTime(ReadOnlySpan<byte> text, out DateTimeOffset at)
    {
        at = default;
        if (
            text.Length != 26
            || text[2] != '/'
            || text[6] != '/'
            || text[11] != ':'
            || text[14] != ':'
            || text[17] != ':'
            || text[20] != ' '
            || text[21] is not ((byte)'+' or (byte)'-')
            || !TryReadNumber(text[..2], out int day)
            || !TryReadNumber(text[7..11], out int year)
            || !TryReadNumber(text[12..14], out int hour)
            || !TryReadNumber(text[15..17], out int minute)
            || !TryReadNumber(text[18..20], out int second)
            || !TryReadNumber(text[22..24], out int offsetHours)
            || !TryReadNumber(text[24..26], out int offsetMinutes)
            || Months.IndexOf(text[3..6]) is not (>= 0 and var month)
            || month % 3 != 0
            || year is < 1970 or > 9998
            || day < 1
            || day > DateTime.DaysInMonth(year, (month / 3) + 1)
            || hour > 23
            || minute > 59
            || second > 60
            || offsetHours > 14
            || offsetMinutes > 59
        )
        {
            return false;
        }

        // A leap second has no place of its own; it is told with the second before it.
        var local = new DateTime(year, (month / 3) + 1, day, hour, minute, Math.Min(second, 59), DateTimeKind.Unspecified);
        var offset = new TimeSpan(offsetHours, offsetMinutes, 0);
        at = new DateTimeOffset(local - (text[21] == '-' ? -offset : offset), TimeSpan.Zero);
        return true;
    }

    private static bool TryReadNumber(ReadOnlySpan<byte> digits, out int number)
    {
        number = 0;
        foreach (byte digit in digits)
        {
            if (digit is < (byte)'0' or > (byte)'9')
            {
                return false;
            }

            number = (number * 10) + (digit - '0');
        }

        return true;
    }

    private static ReadOnlySpan<byte> NoneIfDash(ReadOnlySpan<byte> part) => part.SequenceEqual("-"u8) ? default : part;
}
