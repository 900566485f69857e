namespace PreciseBeacon.Core.Codes;

/// <summary>The kind of file a code is written into.</summary>
public enum CodeFormat
{
    Svg,
    Png,
    Jpg,
    Pdf,
    Eps,
}
