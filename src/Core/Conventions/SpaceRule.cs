namespace PreciseBeacon.Core.Conventions;

/// <summary>What stands for a space in a written value.</summary>
public enum SpaceRule
{
    Underscore,
    Hyphen,
    Stay,
}
