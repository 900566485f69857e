using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A value as a field writes it.</summary>
/// <param name="Written">The written form.</param>
/// <param name="Steps">The steps that changed something, in order.</param>
/// <param name="Problem">The rule that forbids the value, or null.</param>
/// <param name="Why">What is wrong with it and what to do, when there is a problem.</param>
public sealed record NormalisedValue(string Written, IReadOnlyList<ValueStep> Steps, NoticeRule? Problem = null, string? Why = null);
