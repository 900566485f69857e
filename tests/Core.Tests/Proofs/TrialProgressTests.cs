using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Proofs;

public sealed class TrialProgressTests
{
    private static readonly DateTimeOffset Start = new(2026, 7, 1, 9, 0, 0, TimeSpan.Zero);
    private static readonly DateTimeOffset End = Start + TrialProgress.Lasts;

    private static readonly RawTags Due = RawTags.Of(new Dictionary<string, string> { ["utm_source"] = "post", ["utm_medium"] = "email" });

    private static TrialClick Click(int second, HitKind kind = HitKind.Person, RouteOutcome outcome = RouteOutcome.Redirects) =>
        new(
            Guid.CreateVersion7(Start.AddSeconds(second)),
            Start.AddSeconds(second),
            kind,
            "",
            outcome,
            "https://a.example",
            Due,
            "Newsletter and mail"
        );

    private static TrialVisit Visit(TrialClick click, RawTags? tags = null, string channel = "Newsletter and mail") =>
        new(click.Id, click.At.AddSeconds(1), "a.example/", tags ?? Due, channel, "garden_post", "print", "Lantern Nights", "Garden Post");

    private static TrialProgress At(
        int second,
        IReadOnlyList<TrialClick> clicks,
        IReadOnlyList<TrialVisit>? visits = null,
        params Finding[] trace
    ) => TrialProgress.Of(clicks, visits ?? [], trace, Start.AddSeconds(second));

    private static string Shown(TrialProgress progress) => string.Concat(progress.Steps.Select(s => s.State.ToString()[0]));

    [Fact]
    public void Steps_light_up_one_after_another()
    {
        var click = Click(5);
        var before = At(4, []);
        Assert.Equal(("WWWW", TrialVerdict.Waiting), (Shown(before), before.VerdictAt(Start, End)));
        Assert.Equal(TrialVerdict.NotTried, before.VerdictAt(End, End));
        var clicked = At(6, [click]);
        Assert.Equal(("DDWW", TrialVerdict.Underway), (Shown(clicked), clicked.VerdictAt(Start, End)));
        var done = At(7, [click], [Visit(click)]);
        Assert.Equal(("DDDD", TrialVerdict.Works, true), (Shown(done), done.VerdictAt(Start, End), done.IsDone));
        Assert.Equal(
            "The link works. It arrives as Newsletter and mail, campaign Lantern Nights, placement Garden Post.",
            done.SaysAt(Start, End)
        );
    }

    /// <summary>A scanner of mails that calls itself a browser opens the address first; the person who clicks later is the one shown.</summary>
    [Fact]
    public void What_opens_the_address_before_a_person_spoils_nothing()
    {
        TrialClick[] clicks = [Click(1, HitKind.Head), Click(2, HitKind.Crawler), Click(3, HitKind.Preview)];
        Assert.Equal("WWWW", Shown(At(60, clicks)));
        var scanner = Click(4);
        var person = Click(90);
        Assert.Equal("DDFF", Shown(At(80, [.. clicks, scanner])));
        Assert.Equal("DDWW", Shown(At(95, [.. clicks, scanner, person])));
        var done = At(95, [.. clicks, scanner, person, Click(94)], [Visit(person)]);
        Assert.Equal(("DDDD", person.Id), (Shown(done), done.Click!.Id));
        Assert.Empty(done.Findings);
    }

    [Fact]
    public void A_visit_without_its_tags_fails_at_the_third_step()
    {
        var click = Click(5);
        var some = RawTags.Of(new Dictionary<string, string> { ["utm_source"] = "post", ["utm_medium"] = "E-mail" });
        var dropped = new Finding(FindingRules.TagsDropped, Severity.Error, "The redirect drops utm_medium.", 2);
        var lost = At(7, [click], [Visit(click, some, "Referral")], dropped);
        Assert.Equal(("DDFD", TrialVerdict.Fails), (Shown(lost), lost.VerdictAt(Start, End)));
        Assert.Equal((FindingRules.ArrivedWithoutTags, 2), (lost.Findings[0].Rule, lost.Findings[0].Hop));
        Assert.Contains("without utm_medium. They are lost at redirect 2", lost.Findings[0].Message, StringComparison.Ordinal);
        Assert.Contains("only browsers see", At(7, [click], [Visit(click, RawTags.None)]).Findings[0].Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(FindingRules.ScriptMissing, "Its measuring script is missing")]
    [InlineData(FindingRules.ScriptOfAnotherSite, "the key of another site")]
    [InlineData(FindingRules.ErrorStatus, "did not answer as it should")]
    [InlineData(FindingRules.SlowPage, "Its script is there")]
    public void A_page_that_does_not_report_has_its_likely_cause(string rule, string cause)
    {
        var click = Click(0);
        var trace = new Finding(rule, Severity.Warning, "Found.");
        Assert.Equal("DDWW", Shown(At(19, [click], null, trace)));
        var late = At(20, [click], null, trace);
        Assert.Equal("DDFF", Shown(late));
        Assert.Equal(FindingRules.NotMeasured, late.Findings[0].Rule);
        Assert.Contains(cause, late.Findings[0].Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(RouteOutcome.Paused, FindingRules.LinkPaused)]
    [InlineData(RouteOutcome.Ended, FindingRules.LinkEnded)]
    public void A_link_that_leads_nowhere_fails_at_the_second_step(RouteOutcome outcome, string rule)
    {
        var stopped = At(1, [Click(0, outcome: outcome)]);
        Assert.Equal("DFFF", Shown(stopped));
        Assert.Equal(rule, Assert.Single(stopped.Findings).Rule);
    }

    [Fact]
    public void A_channel_other_than_the_tags_say_is_worth_knowing()
    {
        var click = Click(0);
        var sorted = At(3, [click], [Visit(click, channel: "Partners")]);
        Assert.Equal(("DDDD", TrialVerdict.Works), (Shown(sorted), sorted.VerdictAt(Start, End)));
        Assert.Equal(FindingRules.SortedElsewhere, Assert.Single(sorted.Findings).Rule);
    }
}
