using System.Text;

namespace PreciseBeacon.Core.Batches;

/// <summary>Recognises how a text file is encoded: by its byte order mark, else by what its octets can be.</summary>
public static class FileText
{
    private static readonly Encoding StrictUtf8 = new UTF8Encoding(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    /// <summary>Recognises the encoding.</summary>
    /// <param name="file">The whole file.</param>
    /// <returns>The encoding and how many octets its mark takes. What can't be UTF-8 or UTF-16 is taken as Windows-1252.</returns>
    public static (FileEncoding Encoding, int MarkLength) Recognise(ReadOnlySpan<byte> file)
    {
        if (file.StartsWith((ReadOnlySpan<byte>)[0xEF, 0xBB, 0xBF]))
        {
            return (FileEncoding.Utf8Marked, 3);
        }

        if (file.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xFE]))
        {
            return (FileEncoding.Utf16Little, 2);
        }

        if (file.StartsWith((ReadOnlySpan<byte>)[0xFE, 0xFF]))
        {
            return (FileEncoding.Utf16Big, 2);
        }

        if (LooksLikeUtf16(file) is { } unmarked)
        {
            return (unmarked, 0);
        }

        return (IsUtf8(file) ? FileEncoding.Utf8 : FileEncoding.Windows1252, 0);
    }

    /// <summary>The file's text under an encoding, without its mark.</summary>
    public static string Decode(ReadOnlySpan<byte> file, FileEncoding encoding)
    {
        var (recognised, mark) = Recognise(file);
        return EncodingOf(encoding).GetString(file[(recognised == encoding ? mark : 0)..]).TrimStart('\uFEFF');
    }

    /// <summary>A text as a file, with the mark where the encoding has one.</summary>
    /// <param name="text">The text.</param>
    /// <param name="encoding">The encoding; Windows-1252 that can't hold the text is widened to UTF-8 with a mark.</param>
    public static byte[] Encode(string text, FileEncoding encoding)
    {
        if (encoding == FileEncoding.Windows1252 && !Fits1252(text))
        {
            encoding = FileEncoding.Utf8Marked;
        }

        byte[] mark = encoding switch
        {
            FileEncoding.Utf8Marked => [0xEF, 0xBB, 0xBF],
            FileEncoding.Utf16Little => [0xFF, 0xFE],
            FileEncoding.Utf16Big => [0xFE, 0xFF],
            _ => [],
        };
        return [.. mark, .. EncodingOf(encoding).GetBytes(text)];
    }

    /// <summary>A further part of a file that was begun with <see cref="Encode"/>: no mark, and the same encoding whatever is in it.</summary>
    public static byte[] EncodePart(string text, FileEncoding encoding) => EncodingOf(encoding).GetBytes(text);

    private static Encoding EncodingOf(FileEncoding encoding) =>
        encoding switch
        {
            FileEncoding.Utf16Little => new UnicodeEncoding(bigEndian: false, byteOrderMark: false),
            FileEncoding.Utf16Big => new UnicodeEncoding(bigEndian: true, byteOrderMark: false),
            FileEncoding.Windows1252 => CodePagesEncodingProvider.Instance.GetEncoding(1252)!,
            _ => new UTF8Encoding(encoderShouldEmitUTF8Identifier: false),
        };

    /// <summary>True when a text comes back the same from an encoding.</summary>
    public static bool Holds(string text, FileEncoding encoding) => encoding != FileEncoding.Windows1252 || Fits1252(text);

    private static bool Fits1252(string text)
    {
        var encoding = EncodingOf(FileEncoding.Windows1252);
        return encoding.GetString(encoding.GetBytes(text)) == text;
    }

    private static bool IsUtf8(ReadOnlySpan<byte> file)
    {
        try
        {
            StrictUtf8.GetCharCount(file);
            return true;
        }
        catch (DecoderFallbackException)
        {
            return false;
        }
    }

    /// <summary>Text in most scripts has a zero in every other octet of its separators and digits.</summary>
    private static FileEncoding? LooksLikeUtf16(ReadOnlySpan<byte> file)
    {
        var start = file[..Math.Min(file.Length, 4_096)];
        int even = 0,
            odd = 0;
        for (int i = 0; i < start.Length; i++)
        {
            if (start[i] == 0)
            {
                _ = i % 2 == 0 ? even++ : odd++;
            }
        }

        int half = start.Length / 2;
        return half < 2 ? null
            : odd > half / 3 && even == 0 ? FileEncoding.Utf16Little
            : even > half / 3 && odd == 0 ? FileEncoding.Utf16Big
            : null;
    }
}
