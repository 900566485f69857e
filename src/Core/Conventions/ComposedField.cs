namespace PreciseBeacon.Core.Conventions;

/// <summary>A field of a composed link.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Label">Its label.</param>
/// <param name="Value">Its written value; empty when it has none.</param>
/// <param name="From">Where the value came from.</param>
/// <param name="Steps">What was changed on the way, in order.</param>
public sealed record ComposedField(string Key, string Label, string Value, ValueOrigin From, IReadOnlyList<ValueStep> Steps);
