namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What comes of a line of another shortener's list.</summary>
public enum SlugImportOutcome
{
    /// <summary>It can be taken over.</summary>
    Ready,

    /// <summary>It can, and leads on once an owner has approved its host.</summary>
    Waits,

    /// <summary>Its slug is somebody else's already.</summary>
    Clash,

    /// <summary>It can't be taken over as it stands.</summary>
    Refused,
}
