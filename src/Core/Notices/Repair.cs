using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Notices;

/// <summary>A change that mends what a notice is about.</summary>
/// <param name="Field">Key of the field to change, or null for the destination.</param>
/// <param name="Value">The value to put there; an empty text clears it.</param>
/// <param name="Says">What the button says, as an order of a few words.</param>
public sealed record Repair(string? Field, string Value, string Says);
