namespace PreciseBeacon.Core.Conventions;

/// <summary>How a value stands to a word list.</summary>
public enum WordMatchKind
{
    Known,
    Alias,
    Retired,
    Unknown,
}
