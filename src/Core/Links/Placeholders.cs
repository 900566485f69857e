using System.Buffers;

namespace PreciseBeacon.Core.Links;

/// <summary>
/// Finds the placeholders of ad platforms and mail tools in a text. A name is 1–40 of <c>A–Z a–z 0–9 _ . : -</c>; a mail
/// tool's may hold spaces.
/// A <c>@</c> right before a brace makes it one of our own fill-ins, which is never an ad platform's; those known only
/// at the click are live in every workspace.
/// </summary>
public static class Placeholders
{
    private const int LongestName = 40;
    private const string AtClick = "@{click.";

    private static readonly SearchValues<char> NameCharacters = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789_.:-"
    );

    private static readonly SearchValues<char> Openers = SearchValues.Create("{[%$_@*<");

    private static readonly SearchValues<char> MergeNameCharacters = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789_.:- "
    );

    private static readonly (string Open, string Close)[] MergeForms =
    [
        ("{{", "}}"),
        ("*|", "|*"),
        ("<%=", "%>"),
        ("<%", "%>"),
        ("[[", "]]"),
        ("${", "}"),
    ];

    // The longer shape is tried first, so that {{name}} is not read as { + {name} + }.
    private static readonly (PlaceholderShapes Shape, string Open, string Close)[] Forms =
    [
        (PlaceholderShapes.DoubleBraces, "{{", "}}"),
        (PlaceholderShapes.Braces, "{", "}"),
        (PlaceholderShapes.Brackets, "[", "]"),
        (PlaceholderShapes.Percents, "%%", "%%"),
        (PlaceholderShapes.Dollars, "$", "$"),
        (PlaceholderShapes.Underscores, "__", "__"),
    ];

    /// <summary>False for a text without a character that could begin a placeholder of any shape; most have none.</summary>
    public static bool MayHold(ReadOnlySpan<char> text) => text.IndexOfAny(Openers) >= 0;

    /// <summary>Cuts a text into plain stretches and placeholders of the live shapes; joined, they are the text again.</summary>
    public static IReadOnlyList<TextAtom> Split(string text, PlaceholderShapes live)
    {
        if (text.Length == 0)
        {
            return [];
        }

        if ((live == PlaceholderShapes.None && !text.Contains(AtClick, StringComparison.Ordinal)) || !MayHold(text))
        {
            return [new TextAtom(text, PlaceholderShapes.None)];
        }

        var atoms = new List<TextAtom>();
        int plainFrom = 0;
        int at = 0;
        while (at < text.Length)
        {
            int length = MatchAt(text, at, live, out var shape);
            if (length == 0)
            {
                at++;
                continue;
            }

            if (at > plainFrom)
            {
                atoms.Add(new TextAtom(text[plainFrom..at], PlaceholderShapes.None));
            }

            atoms.Add(new TextAtom(text.Substring(at, length), shape));
            at += length;
            plainFrom = at;
        }

        if (plainFrom < text.Length)
        {
            atoms.Add(new TextAtom(text[plainFrom..], PlaceholderShapes.None));
        }

        return atoms;
    }

    /// <summary>Length of the placeholder that begins at a place, or 0.</summary>
    internal static int MatchAt(string text, int at, PlaceholderShapes live, out PlaceholderShapes shape)
    {
        shape = PlaceholderShapes.None;
        if (!Openers.Contains(text[at]))
        {
            return 0;
        }

        if (text[at] == '@')
        {
            int click = text.AsSpan(at).StartsWith(AtClick, StringComparison.Ordinal) ? Length(text.AsSpan(at), "@{", "}") : 0;
            shape = click > 0 ? PlaceholderShapes.AtClick : PlaceholderShapes.None;
            return click;
        }

        if (live == PlaceholderShapes.None)
        {
            return 0;
        }

        bool ours = text[at] == '{' && at > 0 && text[at - 1] == '@';
        foreach (var (candidate, open, close) in Forms)
        {
            if ((live & candidate) == 0 || (ours && candidate == PlaceholderShapes.Braces))
            {
                continue;
            }

            int length = Length(text.AsSpan(at), open, close);
            if (length > 0)
            {
                shape = candidate;
                return length;
            }
        }

        if ((live & PlaceholderShapes.MergeTags) != 0 && MergeTag(text, at) is var merged and > 0)
        {
            shape = PlaceholderShapes.MergeTags;
            return merged;
        }

        return 0;
    }

    private static int MergeTag(string text, int at)
    {
        foreach (var (open, close) in MergeForms)
        {
            if (
                Length(text.AsSpan(at), open, close, MergeNameCharacters) is var length and > 0
                && !string.IsNullOrWhiteSpace(text.Substring(at + open.Length, length - open.Length - close.Length))
            )
            {
                return length;
            }
        }

        // %name.name% without spaces: a dot is due inside, and nothing around or in it may pass for a percent-encoded byte.
        int percents = text[at] == '%' && (at == 0 || text[at - 1] != '%') ? Length(text.AsSpan(at), "%", "%") : 0;
        return
            percents > 0
            && text.AsSpan(at, percents).Contains('.')
            && !IsByte(text, at)
            && !IsByte(text, at + percents - 1)
            && (at + percents == text.Length || text[at + percents] != '%')
            ? percents
            : 0;
    }

    private static bool IsByte(string text, int at) =>
        at + 2 < text.Length && char.IsAsciiHexDigit(text[at + 1]) && char.IsAsciiHexDigit(text[at + 2]);

    private static int Length(ReadOnlySpan<char> text, string open, string close) => Length(text, open, close, NameCharacters);

    private static int Length(ReadOnlySpan<char> text, string open, string close, SearchValues<char> names)
    {
        if (!text.StartsWith(open, StringComparison.Ordinal))
        {
            return 0;
        }

        // The closing mark may itself be made of name characters (__NAME__), so the nearest one is sought first.
        var inside = text[open.Length..];
        int end = inside.IndexOf(close, StringComparison.Ordinal);
        if (end is < 1 or > LongestName || inside[..end].IndexOfAnyExcept(names) >= 0)
        {
            return 0;
        }

        return open.Length + end + close.Length;
    }
}

/// <summary>A stretch of a value: plain text, or one placeholder that no rule looks inside.</summary>
/// <param name="Text">The stretch as written; never empty.</param>
/// <param name="Shape">The placeholder's shape, or <see cref="PlaceholderShapes.None"/> for plain text.</param>
public readonly record struct TextAtom(string Text, PlaceholderShapes Shape)
{
    public bool IsPlaceholder => Shape != PlaceholderShapes.None;
}
