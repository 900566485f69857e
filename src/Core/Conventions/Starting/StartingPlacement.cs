namespace PreciseBeacon.Core.Conventions.Starting;

/// <summary>A placement a new workspace begins with.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Channel">Its channel in the starting table.</param>
/// <param name="Standing">Its standing values by the standard keys.</param>
public sealed record StartingPlacement(string Name, string Channel, IReadOnlyDictionary<string, string> Standing);
