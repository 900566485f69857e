namespace PreciseBeacon.Core.Links;

/// <summary>A stretch of a value: plain text, or one placeholder that no rule looks inside.</summary>
/// <param name="Text">The stretch as written; never empty.</param>
/// <param name="Shape">The placeholder's shape, or <see cref="PlaceholderShapes.None"/> for plain text.</param>
public readonly record struct TextAtom(string Text, PlaceholderShapes Shape)
{
    public bool IsPlaceholder => Shape != PlaceholderShapes.None;
}
