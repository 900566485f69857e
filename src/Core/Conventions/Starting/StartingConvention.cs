using PreciseBeacon.Core.Conventions.Document;

namespace PreciseBeacon.Core.Conventions.Starting;

/// <summary>A convention a new workspace can begin with.</summary>
/// <param name="Name">Machine word.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Suits">One sentence on whom it suits.</param>
/// <param name="Document">The convention; the owner can change all of it.</param>
public sealed record StartingConvention(string Name, string Title, string Suits, ConventionDocument Document);

/// <summary>A placement a new workspace begins with.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Channel">Its channel in the starting table.</param>
/// <param name="Defaults">Its default values by the standard keys.</param>
public sealed record StartingPlacement(string Name, string Channel, IReadOnlyDictionary<string, string> Defaults);
