namespace PreciseBeacon.Core.Traffic;

/// <summary>What a page reported.</summary>
public enum PageEventKind : byte
{
    View,
    Event,
    Conversion,
}
