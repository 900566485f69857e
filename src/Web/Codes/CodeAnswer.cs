using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Codes;

/// <summary>A code in figures, and whether it will scan.</summary>
/// <param name="Facts">Its figures.</param>
/// <param name="Trials">How an independent reader saw it.</param>
/// <param name="Verdict">What the reader says.</param>
/// <param name="Sentence">The same in words.</param>
/// <param name="Preview">The code as SVG, to be looked at on a screen, also where it does not read.</param>
public sealed record CodeAnswer(CodeFacts Facts, IReadOnlyList<TrialAnswer> Trials, CodeVerdict Verdict, string Sentence, string Preview);

/// <summary>One look at a code.</summary>
/// <param name="Name">How it was seen.</param>
/// <param name="Reads">Whether it read right.</param>
public sealed record TrialAnswer(string Name, bool Reads);

/// <summary>Whether a code scans.</summary>
public enum CodeVerdict
{
    /// <summary>However it was looked at.</summary>
    Scans,

    /// <summary>Not however it was looked at, or something about it is a warning.</summary>
    Doubtful,

    /// <summary>Not at all; then it is not handed out.</summary>
    Unreadable,

    /// <summary>No reader is installed.</summary>
    Unproven,
}

/// <summary>A picture that can be put in the middle of codes.</summary>
public sealed record LogoAnswer(Guid Id, string Name, string CreatedBy, DateTimeOffset CreatedAt);
