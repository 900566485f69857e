namespace PreciseBeacon.Core.Conventions;

/// <summary>Whether a link has a field.</summary>
public enum Presence
{
    Required,
    Offered,
    Hidden,
}
