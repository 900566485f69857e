using System.Text;
using System.Text.RegularExpressions;
using MimeKit;
using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.Core.Mails;

/// <summary>
/// An HTML mail as a file: HTML alone, or a whole message (RFC 5322, MIME) with an HTML part. Its links can be replaced; every
/// other octet stays as it is.
/// </summary>
public sealed partial class MailFile
{
    private const int LineOfBase64 = 76; // RFC 2045, 6.8

    private readonly byte[] _file;
    private readonly int _start;
    private readonly int _end;
    private readonly ContentEncoding _transfer;
    private readonly QuotedPrintable? _quoted;
    private readonly Encoding? _wide;
    private readonly Encoding _charset;

    private MailFile(byte[] file, int start, int end, ContentEncoding transfer, string? charset, string? subject, bool isMessage)
    {
        (_file, _start, _end, _transfer, IsMessage) = (file, start, end, transfer, isMessage);
        string encoded = Encoding.Latin1.GetString(file, start, end - start);
        _quoted = transfer == ContentEncoding.QuotedPrintable ? new QuotedPrintable(encoded) : null;
        byte[] octets = transfer switch
        {
            ContentEncoding.QuotedPrintable => Encoding.Latin1.GetBytes(_quoted!.Plain),
            ContentEncoding.Base64 => FromBase64(encoded),
            _ => file[start..end],
        };
        (_charset, _wide) = CharsetOf(octets, charset);

        // One character to an octet, so that what is not replaced can't change; only wide characters are read as text.
        Html = (_wide ?? Encoding.Latin1).GetString(octets);
        Subject = subject ?? MailLinks.TitleOf(Readable);
        Links = MailLinks.Find(Html, _wide is null ? text => _charset.GetString(Encoding.Latin1.GetBytes(text)) : null);
    }

    /// <summary>The subject of a message, or the title of its HTML; null where there is neither.</summary>
    public string? Subject { get; }

    /// <summary>True for a whole message, false for HTML alone.</summary>
    public bool IsMessage { get; }

    /// <summary>The links, in the order of the source.</summary>
    public IReadOnlyList<MailLink> Links { get; }

    private string Html { get; }

    /// <summary>Reads a file.</summary>
    /// <param name="file">The file: HTML, or a message.</param>
    /// <exception cref="FormatException">There is no HTML in it; the message is one sentence.</exception>
    public static MailFile Read(byte[] file)
    {
        if (!LooksLikeMessage(file))
        {
            return LooksLikeHtml(file)
                ? new MailFile(file, 0, file.Length, ContentEncoding.Default, null, null, isMessage: false)
                : throw new FormatException("This file contains no HTML; upload an HTML file, or a mail saved with its HTML (.eml).");
        }

        var parts = new Dictionary<MimeEntity, (int Start, int End)>();
        using var stream = new MemoryStream(file);
        var parser = new MimeParser(stream, MimeFormat.Entity);
        parser.MimeEntityEnd += (_, e) => parts[e.Entity] = ((int)e.HeadersEndOffset, (int)e.EndOffset);
        MimeMessage message;
        try
        {
            message = parser.ParseMessage();
        }
        catch (Exception broken) when (broken is FormatException or ParseException)
        {
            throw new FormatException("The mail can't be read; save it again as .eml, or upload its HTML only.", broken);
        }

        var html = message.BodyParts.OfType<TextPart>().FirstOrDefault(p => p.IsHtml && !p.IsAttachment)
            ?? throw new FormatException("This mail has only plain text and no HTML part; there is nothing to tag.");
        var (start, end) = parts[html];
        return new MailFile(file, start, end, html.ContentTransferEncoding, html.ContentType.Charset, message.Subject, isMessage: true);
    }

    /// <summary>The HTML as it is read.</summary>
    public string Readable => Shown(Html);

    /// <summary>The HTML as it is read, with other addresses in its links.</summary>
    public string ReadableWith(IReadOnlyDictionary<int, string> addresses) => Shown(MailLinks.Write(Html, Links, addresses));

    /// <summary>The file with other addresses in its links, by number.</summary>
    public byte[] With(IReadOnlyDictionary<int, string> addresses)
    {
        var changed = Links.Where(l => addresses.ContainsKey(l.Number)).ToList();
        if (changed.Count == 0)
        {
            return _file;
        }

        byte[] body = _transfer switch
        {
            ContentEncoding.QuotedPrintable => Encoding.Latin1.GetBytes(
                _quoted!.Replace(changed.Select(l => (l.Start, l.Length, MailLinks.Attribute(addresses[l.Number], l.Quote))))
            ),
            ContentEncoding.Base64 => ToBase64(
                Encoding.Latin1.GetBytes(MailLinks.Write(Html, Links, addresses)),
                Encoding.Latin1.GetString(_file, _start, _end - _start)
            ),
            _ => (_wide ?? Encoding.Latin1).GetBytes(MailLinks.Write(Html, Links, addresses)),
        };
        return [.. _file[.._start], .. body, .. _file[_end..]];
    }

    private string Shown(string html) => _wide is null ? _charset.GetString(Encoding.Latin1.GetBytes(html)) : html;

    private static byte[] FromBase64(string encoded)
    {
        try
        {
            return Convert.FromBase64String(encoded);
        }
        catch (FormatException broken)
        {
            throw new FormatException("The mail’s HTML is damaged (its base64 can't be read); save the mail again.", broken);
        }
    }

    private static byte[] ToBase64(byte[] octets, string before)
    {
        string whole = Convert.ToBase64String(octets);
        var lines = new StringBuilder();
        for (int i = 0; i < whole.Length; i += LineOfBase64)
        {
            lines.Append(whole, i, Math.Min(LineOfBase64, whole.Length - i)).Append(QuotedPrintable.LineEnd(before));
        }

        // What followed the text before, follows it again.
        string tail = before[before.TrimEnd('\r', '\n').Length..];
        return Encoding.Latin1.GetBytes(lines.ToString().TrimEnd('\r', '\n') + tail);
    }

    private static (Encoding Charset, Encoding? Wide) CharsetOf(byte[] octets, string? named)
    {
        var recognised = FileText.Recognise(octets).Encoding;
        if (recognised is FileEncoding.Utf16Little or FileEncoding.Utf16Big)
        {
            var wide = new UnicodeEncoding(bigEndian: recognised == FileEncoding.Utf16Big, byteOrderMark: false);
            return (wide, wide);
        }

        if (recognised is FileEncoding.Utf8 or FileEncoding.Utf8Marked)
        {
            return (Encoding.UTF8, null);
        }

        named ??= CharsetInHtml().Match(Encoding.Latin1.GetString(octets, 0, Math.Min(octets.Length, 2_048))) is { Success: true } meta
            ? meta.Groups["charset"].Value
            : null;
        try
        {
            var charset = named is null ? null : CodePagesEncodingProvider.Instance.GetEncoding(named) ?? Encoding.GetEncoding(named);
            return (charset is { IsSingleByte: true } ? charset : CodePagesEncodingProvider.Instance.GetEncoding(1252)!, null);
        }
        catch (ArgumentException)
        {
            return (CodePagesEncodingProvider.Instance.GetEncoding(1252)!, null);
        }
    }

    private static bool LooksLikeMessage(byte[] file) =>
        HeaderLine().IsMatch(Encoding.Latin1.GetString(file, 0, Math.Min(file.Length, 4_096)));

    private static bool LooksLikeHtml(byte[] file)
    {
        string start = Encoding.Latin1.GetString(file, 0, Math.Min(file.Length, 1 << 20)).Replace("\0", "", StringComparison.Ordinal);
        return TagOfHtml().IsMatch(start)
            && !start.StartsWith("PK", StringComparison.Ordinal)
            && !start.StartsWith("%PDF", StringComparison.Ordinal);
    }

    /// <summary>A message begins with fields, a name and a colon each (RFC 5322, 2.2).</summary>
    [GeneratedRegex(
        @"\A(?:From [^\r\n]*\r?\n)?(?:[!-9;-~]+:[^\r\n]*(?:\r?\n[ \t][^\r\n]*)*\r?\n){2,}",
        RegexOptions.None,
        matchTimeoutMilliseconds: 1_000
    )]
    private static partial Regex HeaderLine();

    [GeneratedRegex(@"<(?:!doctype|html|head|body|table|div|p|a|img|h[1-6]|center|span)\b", RegexOptions.IgnoreCase)]
    private static partial Regex TagOfHtml();

    [GeneratedRegex(@"<meta[^>]*charset\s*=\s*[""']?(?<charset>[\w-]+)", RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture)]
    private static partial Regex CharsetInHtml();
}
