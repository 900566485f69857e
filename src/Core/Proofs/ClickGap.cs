namespace PreciseBeacon.Core.Proofs;

/// <summary>
/// People's clicks on a link beside the visits measured after them, and why fewer arrived (rules, section 10). Clicks are gathered into
/// visits first, by the same half hour, so that both sides count alike.
/// </summary>
public sealed record ClickGap
{
    /// <summary>Under so many expected visits there is no verdict (reports, section 5).</summary>
    public const int LeastExpected = 50;

    /// <summary>Up to this share nothing is said (common practice).</summary>
    public const double Quiet = 0.10;

    /// <summary>Up to this share it is ordinary (common practice).</summary>
    public const double Ordinary = 0.20;

    /// <summary>Clicks younger than this may still have their visits worked out, and say little (rules, section 10).</summary>
    public static readonly TimeSpan New = TimeSpan.FromHours(48);

    /// <summary>A program is one that clicked so often and was never measured once (ours).</summary>
    public const int ProgramClicks = 20;

    /// <summary>What was counted.</summary>
    public required GapEvidence Evidence { get; init; }

    /// <summary>Share of the expected visits that is missing, 0 to 1; null with none expected.</summary>
    public required double? Gap { get; init; }

    /// <summary>What is to be said of it.</summary>
    public required GapVerdict Verdict { get; init; }

    /// <summary>Likely causes, those with the most missing visits first; empty without missing ones.</summary>
    public required IReadOnlyList<GapCause> Causes { get; init; }

    /// <summary>Judges a link.</summary>
    /// <param name="evidence">What was counted.</param>
    /// <param name="found">What the latest trial's fetch found on its way to the page; empty where none was.</param>
    public static ClickGap Of(GapEvidence evidence, IReadOnlyList<Finding> found)
    {
        long missing = evidence.Expected - evidence.Measured;
        double? gap = evidence.Expected == 0 ? null : (double)missing / evidence.Expected;
        return new ClickGap
        {
            Evidence = evidence,
            Gap = gap,
            Verdict = VerdictOf(evidence.Expected, gap),
            Causes = [.. CausesOf(evidence, found).Where(c => c.Visits > 0).OrderByDescending(c => c.Visits).ThenBy(c => c.Kind)],
        };
    }

    /// <summary>What is to be said of a gap.</summary>
    /// <param name="expected">How many were expected.</param>
    /// <param name="gap">Share of them that is missing; null with none expected.</param>
    public static GapVerdict VerdictOf(decimal expected, double? gap) =>
        expected < LeastExpected ? GapVerdict.TooFew
        : gap <= Quiet ? GapVerdict.Quiet
        : gap <= Ordinary ? GapVerdict.Ordinary
        : GapVerdict.Finding;

    private static IEnumerable<GapCause> CausesOf(GapEvidence e, IReadOnlyList<Finding> found)
    {
        var broken = found.FirstOrDefault(f => IsBroken(f.Rule));
        var dropped = found.FirstOrDefault(f => IsDropping(f.Rule));
        yield return new GapCause(GapCauseKind.TagsLost, e.Elsewhere, GapCauseText.TagsLost(e.Elsewhere, dropped?.Message));
        yield return new GapCause(GapCauseKind.Programs, e.Programs, GapCauseText.Programs(e.Programs));
        yield return new GapCause(GapCauseKind.New, e.New, $"{GapCauseText.Missing(e.New)} are younger than two days; look again then.");
        yield return broken is not null ? new GapCause(GapCauseKind.PageBroken, e.Silent, GapCauseText.PageBroken(e.Silent, broken.Message))
        : !e.PageMeasured ? new GapCause(GapCauseKind.NotMeasured, e.Silent, GapCauseText.NotMeasured(e.Silent))
        : new GapCause(GapCauseKind.Blocked, e.Silent, GapCauseText.Blocked(e.Silent));
        yield return new GapCause(GapCauseKind.Reused, e.Reused, GapCauseText.Reused(e.Reused));
    }

    /// <summary>Whether a finding explains that visits are missing.</summary>
    public static bool Explains(string rule) => IsBroken(rule) || IsDropping(rule);

    /// <summary>Whether a finding says that the page doesn't answer as it should.</summary>
    internal static bool IsBroken(string rule) =>
        rule is FindingRules.ErrorStatus or FindingRules.PageUnreachable or FindingRules.PageTooSlow or FindingRules.TooManyRedirects;

    /// <summary>Whether a finding says that the tags don't arrive as they were sent.</summary>
    internal static bool IsDropping(string rule) => rule is FindingRules.TagsDropped or FindingRules.TagsChanged;
}

/// <summary>What was counted of a link. The missing visits are those of the four kinds, each in one of them.</summary>
/// <param name="Expected">People's clicks on its short links, gathered into visits by the half hour.</param>
/// <param name="Measured">Those whose visit was measured.</param>
/// <param name="New">Missing, and younger than <see cref="ClickGap.New"/>.</param>
/// <param name="Programs">Missing, of user agents that clicked at least <see cref="ClickGap.ProgramClicks"/> times and were never measured.</param>
/// <param name="Elsewhere">Missing, though the visitor was measured right after, without the link's page or tags.</param>
/// <param name="Silent">Missing, and nothing at all was measured of the visitor right after.</param>
/// <param name="Reused">Of all missing ones those through a printed code with a referrer, which paper has not.</param>
/// <param name="WithoutClick">Visits with the link's tags that came without its short links; they stand apart.</param>
/// <param name="PageMeasured">Anybody at all was measured on its page.</param>
public sealed record GapEvidence(
    long Expected,
    long Measured,
    long New = 0,
    long Programs = 0,
    long Elsewhere = 0,
    long Silent = 0,
    long Reused = 0,
    long WithoutClick = 0,
    bool PageMeasured = true
);

/// <summary>What is to be said of a gap.</summary>
public enum GapVerdict
{
    /// <summary>Too few visits are expected for any word.</summary>
    TooFew,

    /// <summary>It is small.</summary>
    Quiet,

    /// <summary>It is as it often is.</summary>
    Ordinary,

    /// <summary>It is worth looking into.</summary>
    Finding,
}

/// <summary>Why visits may be missing.</summary>
public enum GapCauseKind
{
    TagsLost,
    NotMeasured,
    PageBroken,
    Programs,
    Reused,
    Blocked,
    New,
}

/// <summary>A likely cause of a gap.</summary>
/// <param name="Kind">Which.</param>
/// <param name="Visits">Missing visits that speak for it.</param>
/// <param name="Says">One sentence or two: what happened and what to do.</param>
public sealed record GapCause(GapCauseKind Kind, long Visits, string Says);
