namespace PreciseBeacon.Core.Conventions;

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
