using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Codes;

/// <summary>A code in figures, and whether it will scan.</summary>
/// <param name="Facts">Its figures.</param>
/// <param name="Trials">How an independent reader saw it.</param>
/// <param name="Verdict"><c>scans</c>, <c>doubtful</c>, <c>unreadable</c> (then it is not handed out) or <c>unproven</c>.</param>
/// <param name="Sentence">The same in words.</param>
/// <param name="Preview">The code as SVG, to be looked at on a screen, also where it does not read.</param>
public sealed record CodeAnswer(CodeFacts Facts, IReadOnlyList<TrialAnswer> Trials, string Verdict, string Sentence, string Preview);

/// <summary>One look at a code.</summary>
/// <param name="Name">How it was seen.</param>
/// <param name="Reads">Whether it read right.</param>
public sealed record TrialAnswer(string Name, bool Reads);
