namespace PreciseBeacon.Core.Conventions;

/// <summary>
/// How a composed field is put together. One separator joins the parts and can't occur inside them, so that a name can
/// always be taken apart again.
/// </summary>
/// <param name="Separator"><c>_</c> or <c>-</c>.</param>
/// <param name="Parts">The parts in order, at least one.</param>
public sealed record NamePattern(char Separator, IReadOnlyList<NamePart> Parts)
{
    /// <summary>What stands for a space inside a part.</summary>
    public char Inside => Separator == '_' ? '-' : '_';
}
