using System.Globalization;
using System.Text;

namespace PreciseBeacon.Core.Mails;

/// <summary>Quoted-printable text (RFC 2045, 6.7) that remembers where each decoded octet stands, so that a stretch can be replaced and all else stays.</summary>
public sealed class QuotedPrintable
{
    /// <summary>Longest line of encoded text, the mark of a soft break not counted.</summary>
    private const int LongestLine = 75;

    private readonly string _encoded;
    private readonly string _line;
    private readonly List<int> _starts = [];
    private readonly List<int> _ends = [];

    /// <param name="encoded">The encoded text, one character to an octet.</param>
    public QuotedPrintable(string encoded)
    {
        _encoded = encoded;
        _line = LineEnd(encoded);
        var plain = new StringBuilder(encoded.Length);
        int at = 0;
        while (at < encoded.Length)
        {
            int start = at;
            if (encoded[at] != '=')
            {
                Add(encoded[at], start, ++at);
                continue;
            }

            // A soft break: an equals sign, spaces that a transport may have added, and the end of the line.
            int after = at + 1;
            while (after < encoded.Length && encoded[after] is ' ' or '\t')
            {
                after++;
            }

            if (after >= encoded.Length || encoded[after] is '\r' or '\n')
            {
                at =
                    after < encoded.Length && encoded[after] == '\r' && after + 1 < encoded.Length && encoded[after + 1] == '\n'
                        ? after + 2
                        : Math.Min(encoded.Length, after + 1);
            }
            else if (
                at + 2 < encoded.Length
                && byte.TryParse(encoded.AsSpan(at + 1, 2), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out byte octet)
            )
            {
                at += 3;
                Add((char)octet, start, at);
            }
            else
            {
                Add('=', start, ++at); // not allowed, and read as it stands
            }
        }

        Plain = plain.ToString();

        void Add(char octet, int from, int to)
        {
            plain.Append(octet);
            _starts.Add(from);
            _ends.Add(to);
        }
    }

    /// <summary>The decoded text, one character to an octet.</summary>
    public string Plain { get; }

    /// <summary>The encoded text with stretches of the decoded one replaced.</summary>
    /// <param name="changes">Where each begins in the decoded text, how long it is there, and what comes instead; in order, not overlapping.</param>
    public string Replace(IEnumerable<(int Start, int Length, string Text)> changes)
    {
        var result = new StringBuilder(_encoded.Length + 256);
        int done = 0;
        foreach (var (start, length, text) in changes)
        {
            int from = start < _starts.Count ? _starts[start] : _encoded.Length;
            int to = length == 0 ? from : _ends[start + length - 1];
            result.Append(_encoded, done, from - done);
            int column = ColumnOf(result);
            foreach (char octet in text)
            {
                string piece = octet is >= '!' and <= '~' and not '=' ? octet.ToString() : $"={(int)octet:X2}";
                if (column + piece.Length > LongestLine)
                {
                    result.Append('=').Append(_line);
                    column = 0;
                }

                result.Append(piece);
                column += piece.Length;
            }

            done = to;
            if (column + RestOfLine(to) > LongestLine + 1)
            {
                result.Append('=').Append(_line);
            }
        }

        return result.Append(_encoded, done, _encoded.Length - done).ToString();
    }

    /// <summary>How lines of a text end: as they do on the wire, unless it was stored the other way.</summary>
    public static string LineEnd(string text) =>
        text.Contains('\n', StringComparison.Ordinal) && !text.Contains("\r\n", StringComparison.Ordinal) ? "\n" : "\r\n";

    private static int ColumnOf(StringBuilder text)
    {
        int column = 0;
        for (int i = text.Length - 1; i >= 0 && text[i] != '\n'; i--)
        {
            column++;
        }

        return column;
    }

    private int RestOfLine(int from)
    {
        int end = _encoded.IndexOf('\n', from);
        int stop =
            end < 0 ? _encoded.Length
            : end > from && _encoded[end - 1] == '\r' ? end - 1
            : end;
        return stop - from;
    }
}
