namespace PreciseBeacon.Data.Entities;

/// <summary>What a slug is for; one for text is never printed as a code, so that scans and clicks stay apart.</summary>
public enum ShortLinkUse
{
    Text,
    Code,
}
