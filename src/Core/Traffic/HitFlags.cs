namespace PreciseBeacon.Core.Traffic;

/// <summary>What a request for a short link said about itself.</summary>
[Flags]
public enum HitFlags : byte
{
    None = 0,

    /// <summary>The method was HEAD.</summary>
    Head = 1,

    /// <summary>A <c>Purpose</c> or <c>Sec-Purpose</c> header said prefetch.</summary>
    Prefetch = 2,
}
