namespace PreciseBeacon.Core.Conventions;

/// <summary>One step of normalising that changed something.</summary>
/// <param name="Name">What was done, in a few words.</param>
/// <param name="Before">The value before it.</param>
/// <param name="After">The value after it.</param>
public sealed record ValueStep(string Name, string Before, string After);
