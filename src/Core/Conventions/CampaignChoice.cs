namespace PreciseBeacon.Core.Conventions;

/// <summary>The campaign a link is for.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Value">What the campaign field says, before normalising.</param>
/// <param name="Attributes">Its attributes by name, or null.</param>
/// <param name="Starts">First day, or null for always on.</param>
/// <param name="Ends">Last day, or null when no end is set.</param>
public sealed record CampaignChoice(string Name, string Value, DateOnly? Starts = null, DateOnly? Ends = null, IReadOnlyDictionary<string, string>? Attributes = null);
