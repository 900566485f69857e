namespace PreciseBeacon.Core.Conventions;

/// <summary>What a step of writing a value did.</summary>
public enum ValueStepKind
{
    /// <summary>Letters and their accents became one character each (NFC).</summary>
    Accents,

    /// <summary>Characters nobody sees went.</summary>
    Invisible,

    /// <summary>White space at the ends went.</summary>
    OuterSpaces,

    /// <summary>White space inside became one space.</summary>
    RepeatedSpaces,

    /// <summary>Letters were written in plain Latin ones.</summary>
    PlainLetters,

    /// <summary>Capitals became small, or the other way about.</summary>
    LetterCase,

    /// <summary>A space became the field's separator.</summary>
    Space,

    /// <summary>Characters outside the field's set went.</summary>
    Characters,

    /// <summary>Separators side by side became one.</summary>
    Separators,

    /// <summary>A date was written in the field's form.</summary>
    Date,

    /// <summary>Another name of a word became the word.</summary>
    Alias,

    /// <summary>The value was put together from parts.</summary>
    Composed,
}

/// <summary>One step of writing a value that changed something.</summary>
/// <param name="Kind">What was done.</param>
/// <param name="Name">The same in a few words.</param>
/// <param name="Before">The value before it.</param>
/// <param name="After">The value after it.</param>
public sealed record ValueStep(ValueStepKind Kind, string Name, string Before, string After);
