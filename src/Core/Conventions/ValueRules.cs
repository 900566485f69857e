using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>How a field writes its values.</summary>
/// <param name="Case">Upper and lower case.</param>
/// <param name="Space">What stands for a space.</param>
/// <param name="Characters">The characters allowed.</param>
/// <param name="Outside">What happens to the others.</param>
/// <param name="Transliterate">Rewrites letters of other scripts in ASCII first.</param>
/// <param name="LongestValue">Most characters (Unicode scalar values) a written value may have; longer is a stop, never a cut.</param>
public sealed record ValueRules(
    LetterCase Case = LetterCase.Lower,
    SpaceRule Space = SpaceRule.Underscore,
    CharacterSet Characters = CharacterSet.Anything,
    OutsideSet Outside = OutsideSet.Remove,
    bool Transliterate = false,
    int LongestValue = 200
)
{
    /// <summary>The character that stands for a space.</summary>
    public char Separator =>
        Space switch
        {
            SpaceRule.Underscore => '_',
            SpaceRule.Hyphen => '-',
            _ => ' ',
        };

    /// <summary>Placeholder shapes that stay literal in values; set from the workspace.</summary>
    public PlaceholderShapes Live { get; init; }
}

/// <summary>How upper and lower case are written.</summary>
public enum LetterCase
{
    Lower,
    AsTyped,

    /// <summary>The first letter of each word upper, the rest lower; separators begin a word too.</summary>
    FirstLetters,
}

/// <summary>What stands for a space in a written value.</summary>
public enum SpaceRule
{
    Underscore,
    Hyphen,
    Stay,
}

/// <summary>Which characters a field allows, besides its separators and live placeholders.</summary>
public enum CharacterSet
{
    /// <summary>Everything that prints.</summary>
    Anything,

    /// <summary>Letters, marks and digits of any script, and <c>- . _ ~</c>.</summary>
    LettersAndDigits,

    /// <summary>The unreserved characters of RFC 3986: <c>A–Z a–z 0–9 - . _ ~</c>.</summary>
    Plain,
}

/// <summary>What happens to a character outside a field's set.</summary>
public enum OutsideSet
{
    Remove,
    Refuse,
}
