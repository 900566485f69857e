namespace PreciseBeacon.Core.Conventions;

/// <summary>How a field's values are chosen.</summary>
public enum ListKind
{
    /// <summary>Free text.</summary>
    None,

    /// <summary>Words that are offered; others are noticed.</summary>
    Open,

    /// <summary>Words, and nothing else.</summary>
    Closed,
}
