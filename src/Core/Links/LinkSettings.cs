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
    string? SealingSecret = null);
