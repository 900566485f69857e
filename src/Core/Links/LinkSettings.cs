namespace PreciseBeacon.Core.Links;

/// <summary>How a workspace writes its links.</summary>
/// <param name="Style">Where the tags go.</param>
/// <param name="Existing">What happens to tags already there.</param>
/// <param name="Live">Placeholder shapes that stay literal.</param>
/// <param name="SealedKey">The parameter a sealed link's code stands in; null where the workspace seals none.</param>
/// <param name="SealingSecret">What codes are made with, in Base64; null where the workspace seals none.</param>
/// <param name="PlusForSpace">Writes a space as <c>+</c> instead of <c>%20</c>.</param>
public sealed record LinkSettings(
    TagStyle Style = TagStyle.Query,
    ExistingTags Existing = ExistingTags.Replace,
    PlaceholderShapes Live = PlaceholderShapes.None,
    bool PlusForSpace = false,
    string? SealedKey = null,
    string? SealingSecret = null
);

/// <summary>Where a link carries its tags.</summary>
public enum TagStyle
{
    /// <summary>After the <c>?</c>, where servers and most reading systems look.</summary>
    Query,

    /// <summary>After the <c>#</c>, where only scripts in the page can look.</summary>
    Fragment,

    /// <summary>As one opaque code after the <c>?</c>, which only this workspace can read.</summary>
    Sealed,
}

/// <summary>What to do with tags that an address already has.</summary>
public enum ExistingTags
{
    /// <summary>Each is replaced in place of its first occurrence; leftovers are dropped.</summary>
    Replace,

    /// <summary>They stay; only missing fields are added.</summary>
    Keep,

    /// <summary>A link with tags already there is not made.</summary>
    Refuse,
}
