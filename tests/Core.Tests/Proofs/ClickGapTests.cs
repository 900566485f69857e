using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

public sealed class ClickGapTests
{
    /// <summary>Rules, section 10: quiet up to 10 %, ordinary up to 20 %, no verdict under 50 expected.</summary>
    [Theory]
    [InlineData(49, 0, GapVerdict.TooFew)]
    [InlineData(50, 45, GapVerdict.Quiet)]
    [InlineData(100, 92, GapVerdict.Quiet)]
    [InlineData(100, 89, GapVerdict.Ordinary)]
    [InlineData(100, 85, GapVerdict.Ordinary)]
    [InlineData(100, 80, GapVerdict.Ordinary)]
    [InlineData(100, 79, GapVerdict.Finding)]
    [InlineData(100, 60, GapVerdict.Finding)]
    [InlineData(0, 0, GapVerdict.TooFew)]
    public void A_gap_has_its_verdict(long expected, long measured, GapVerdict verdict) =>
        Assert.Equal(verdict, ClickGap.Of(new GapEvidence(expected, measured), []).Verdict);

    private static string Causes(GapEvidence evidence, params Finding[] found) =>
        string.Join(", ", ClickGap.Of(evidence, found).Causes.Select(c => $"{c.Kind} {c.Visits}"));

    [Fact]
    public void Causes_stand_by_how_many_missing_visits_speak_for_them()
    {
        var evidence = new GapEvidence(200, 100, New: 10, Programs: 30, Elsewhere: 40, Silent: 20, Reused: 25);
        Assert.Equal("TagsLost 40, Programs 30, Reused 25, Blocked 20, New 10", Causes(evidence));
        Assert.Equal(0.5, ClickGap.Of(evidence, []).Gap);
        Assert.Equal("", Causes(new GapEvidence(100, 100)));
    }

    [Fact]
    public void A_page_that_nobody_was_measured_on_has_no_script_and_one_that_breaks_is_broken()
    {
        var evidence = new GapEvidence(100, 0, Silent: 100, PageMeasured: false);
        Assert.Equal("NotMeasured 100", Causes(evidence));
        Assert.Equal("PageBroken 100", Causes(evidence, new Finding(FindingRules.ErrorStatus, Severity.Error, "The page answers 500.")));
        Assert.Equal("Blocked 100", Causes(evidence with { PageMeasured = true }));
    }

    /// <summary>What a trial found on the way stands with the cause, in its own words.</summary>
    [Fact]
    public void A_trial_confirms_a_cause()
    {
        var dropped = new Finding(FindingRules.TagsDropped, Severity.Error, "The redirect from a to b drops utm_source.", 1);
        var evidence = new GapEvidence(100, 60, Elsewhere: 40);
        Assert.Contains("drops utm_source", ClickGap.Of(evidence, [dropped]).Causes[0].Says, StringComparison.Ordinal);
        Assert.Contains("Try the link", ClickGap.Of(evidence, []).Causes[0].Says, StringComparison.Ordinal);
        Assert.StartsWith(
            "1 of the missing visits",
            ClickGap.Of(new GapEvidence(100, 99, Elsewhere: 1), []).Causes[0].Says,
            StringComparison.Ordinal
        );
    }
}
