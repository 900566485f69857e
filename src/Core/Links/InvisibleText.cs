using System.Globalization;
using System.Text;

namespace PreciseBeacon.Core.Links;

/// <summary>Which characters nobody sees, and which of those a text needs all the same.</summary>
public static class InvisibleText
{
    private const char ZeroWidthNonJoiner = '\u200C';
    private const char ZeroWidthJoiner = '\u200D';

    /// <summary>True for characters that print nothing: formats, fillers, and controls other than white space.</summary>
    public static bool IsInvisible(Rune rune) =>
        rune.Value switch
        {
            0x115F or 0x1160 or 0x3164 or 0xFFA0 or 0x2800 => true, // Hangul fillers, blank braille pattern
            < 0x80 => Rune.IsControl(rune) && !Rune.IsWhiteSpace(rune),
            _ => Rune.GetUnicodeCategory(rune) == UnicodeCategory.Format || (Rune.IsControl(rune) && !Rune.IsWhiteSpace(rune)),
        };

    /// <summary>White space and invisible characters cut off both ends.</summary>
    public static string TrimEnds(string text)
    {
        int start = 0;
        int end = text.Length;
        while (start < end && Rune.TryGetRuneAt(text, start, out var rune) && IsBlank(rune))
        {
            start += rune.Utf16SequenceLength;
        }

        while (
            end > start
            && Rune.DecodeLastFromUtf16(text.AsSpan(start, end - start), out var rune, out int used) == System.Buffers.OperationStatus.Done
            && IsBlank(rune)
        )
        {
            end -= used;
        }

        return start == 0 && end == text.Length ? text : text[start..end];
    }

    /// <summary>
    /// Takes invisible characters out everywhere, but leaves joiners inside emoji and inside scripts that need them,
    /// and the tag characters of a flag (Unicode Standard, section 23.2; UTS #51).
    /// </summary>
    public static string Remove(string text)
    {
        if (IsPlain(text))
        {
            return text;
        }

        var result = new StringBuilder(text.Length);
        int at = 0;
        while (at < text.Length)
        {
            if (!Rune.TryGetRuneAt(text, at, out var rune))
            {
                result.Append(text[at++]); // half a character: judged elsewhere
                continue;
            }

            int next = at + rune.Utf16SequenceLength;
            if (!IsInvisible(rune) || IsNeeded(rune, result, text, next))
            {
                result.Append(text, at, rune.Utf16SequenceLength);
            }

            at = next;
        }

        return result.ToString();
    }

    private static bool IsBlank(Rune rune) => Rune.IsWhiteSpace(rune) || IsInvisible(rune);

    private static bool IsPlain(string text)
    {
        foreach (char c in text)
        {
            if (c is < ' ' or > '~')
            {
                return false;
            }
        }

        return true;
    }

    private static bool IsNeeded(Rune rune, StringBuilder before, string text, int next)
    {
        if (before.Length == 0)
        {
            return false;
        }

        var previous = LastRune(before);
        if (rune.Value is >= 0xE0020 and <= 0xE007F)
        {
            return previous.Value == 0x1F3F4 || previous.Value is >= 0xE0020 and <= 0xE007E;
        }

        if (rune.Value is not (ZeroWidthJoiner or ZeroWidthNonJoiner) || !Rune.TryGetRuneAt(text, next, out var following))
        {
            return false;
        }

        bool emoji = rune.Value == ZeroWidthJoiner && IsEmojiPart(previous) && IsEmojiPart(following);
        return emoji || (UsesJoiners(previous) && UsesJoiners(following));
    }

    private static Rune LastRune(StringBuilder text)
    {
        char last = text[^1];
        if (char.IsLowSurrogate(last) && text.Length > 1 && char.IsHighSurrogate(text[^2]))
        {
            return new Rune(text[^2], last);
        }

        return char.IsSurrogate(last) ? Rune.ReplacementChar : new Rune(last);
    }

    private static bool IsEmojiPart(Rune rune) =>
        rune.Value is 0xFE0F or 0x20E3 or (>= 0x1F3FB and <= 0x1F3FF) || Rune.GetUnicodeCategory(rune) == UnicodeCategory.OtherSymbol;

    /// <summary>Arabic and its kin, Mongolian, and the scripts of South and South-East Asia.</summary>
    private static bool UsesJoiners(Rune rune) =>
        rune.Value
            is (>= 0x0600 and <= 0x08FF)
                or (>= 0x0900 and <= 0x0DFF)
                or (>= 0x1000 and <= 0x109F)
                or (>= 0x1780 and <= 0x18AF)
                or (>= 0xFB50 and <= 0xFDFF)
                or (>= 0xFE70 and <= 0xFEFE)
        && (Rune.IsLetter(rune) || Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.SpacingCombiningMark);
}
