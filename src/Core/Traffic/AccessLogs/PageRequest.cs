using System.Collections.Frozen;
using System.Text;

namespace PreciseBeacon.Core.Traffic.AccessLogs;

/// <summary>Tells which lines of an access log are page views of people: only successful page requests, no assets, no crawlers.</summary>
public static class PageRequest
{
    private const int LongestExtension = 8;

    /// <summary>
    /// Endings of what is part of a page, or is read by programs or saved, and not a page itself (common practice). An ending that is not
    /// listed may be a page's, since what follows a dot in a path is often just a name.
    /// </summary>
    private static readonly FrozenSet<string> Assets = (
        "css js mjs map wasm json jsonld xml xsl rss atom txt csv webmanifest manifest appcache "
        + "png jpg jpeg jpe jfif gif webp avif svg svgz ico bmp tif tiff heic heif jxl cur psd "
        + "woff woff2 ttf otf eot "
        + "mp3 mp4 m4a m4v m4s ogg oga ogv opus webm wav flac aac mov avi mpg mpeg mkv m3u8 ts vtt srt "
        + "pdf zip gz tgz bz2 xz 7z rar tar dmg exe msi apk ipa jar iso bin "
        + "doc docx xls xlsx ppt pptx odt ods odp rtf epub ics vcf"
    )
        .Split(' ')
        .ToFrozenSet(StringComparer.OrdinalIgnoreCase);

    private static readonly FrozenSet<string>.AlternateLookup<ReadOnlySpan<char>> AssetLookup = Assets.GetAlternateLookup<
        ReadOnlySpan<char>
    >();

    /// <summary>Why a line is no page view, as far as the line alone tells; null where it is one, unless a crawler asked.</summary>
    public static LogLineSkip? SkipOf(in CombinedLogLine line) =>
        !line.Method.SequenceEqual("GET"u8) ? LogLineSkip.OtherMethod
        : !IsSuccess(line.Status) ? LogLineSkip.Unsuccessful
        : IsAsset(line.Target) ? LogLineSkip.Asset
        : null;

    /// <summary>
    /// The page was sent, or the browser was told that the one it has still holds (304). A part of one (206) and an answer without
    /// content (204, 205) are no page (RFC 9110 §15.3, §15.4.5).
    /// </summary>
    private static bool IsSuccess(int status) => status is 200 or 203 or 304;

    private static bool IsAsset(ReadOnlySpan<byte> target)
    {
        int end = target.IndexOfAny((byte)'?', (byte)'#', (byte)';');
        var path = end < 0 ? target : target[..end];
        int dot = path[(path.LastIndexOf((byte)'/') + 1)..].LastIndexOf((byte)'.');
        if (dot < 0)
        {
            return false;
        }

        var extension = path[(path.LastIndexOf((byte)'.') + 1)..];
        if (extension.Length is 0 or > LongestExtension)
        {
            return false;
        }

        Span<char> text = stackalloc char[LongestExtension];
        return AssetLookup.Contains(text[..Encoding.Latin1.GetChars(extension, text)]);
    }
}
