namespace PreciseBeacon.Core.Conventions;

/// <summary>A system that reads the tags of arriving visits, and the keys it understands.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Keys">The keys it understands, whatever their case; it passes over all others.</param>
public sealed record ReadingSystem(string Name, IReadOnlyList<string> Keys);
