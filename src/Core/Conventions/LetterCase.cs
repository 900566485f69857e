namespace PreciseBeacon.Core.Conventions;

/// <summary>How upper and lower case are written.</summary>
public enum LetterCase
{
    Lower,
    AsTyped,

    /// <summary>The first letter of each word upper, the rest lower; separators begin a word too.</summary>
    FirstLetters,
}
