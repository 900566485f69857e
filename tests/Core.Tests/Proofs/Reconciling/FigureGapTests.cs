using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Proofs.Reconciling;

namespace PreciseBeacon.CoreTests.Proofs.Reconciling;

public sealed class FigureGapTests
{
    private static readonly Finding Broken = new(FindingRules.ErrorStatus, Severity.Error, "The page answers 500.");
    private static readonly Finding Dropped = new(
        FindingRules.TagsDropped,
        Severity.Error,
        "The redirect from a to b drops utm_source.",
        1
    );

    private static FigureGap Of(long theirs, long ours, FigureEvidence? evidence = null, FigureKind kind = FigureKind.Visits) =>
        FigureGap.Of(
            kind,
            kind == FigureKind.Clicks ? new OtherFigures(Clicks: theirs) : new OtherFigures(Visits: theirs),
            kind == FigureKind.Clicks ? new OwnFigures(ours, 0, 0, 0) : new OwnFigures(0, ours, 0, 0),
            evidence ?? FigureEvidence.None
        )!;

    private static string Causes(FigureGap gap) => string.Join(", ", gap.Causes.Select(c => $"{c.Kind} {c.Missing}"));

    /// <summary>Rules, section 10: quiet up to 10 %, ordinary up to 20 %, no verdict under 50; negative ones stand apart.</summary>
    [Theory]
    [InlineData(49, 0, FigureVerdict.TooFew)]
    [InlineData(49, 50, FigureVerdict.Quiet)]
    [InlineData(100, 92, FigureVerdict.Quiet)]
    [InlineData(100, 90, FigureVerdict.Quiet)]
    [InlineData(100, 85, FigureVerdict.Ordinary)]
    [InlineData(100, 80, FigureVerdict.Ordinary)]
    [InlineData(100, 60, FigureVerdict.Finding)]
    [InlineData(100, 110, FigureVerdict.Quiet)]
    [InlineData(100, 111, FigureVerdict.More)]
    [InlineData(0, 49, FigureVerdict.TooFew)]
    [InlineData(0, 60, FigureVerdict.More)]
    public void A_gap_has_its_verdict(long theirs, long ours, FigureVerdict verdict) => Assert.Equal(verdict, Of(theirs, ours).Verdict);

    /// <summary>Clicks beside clicks, visits beside visits; clicks that nobody here counts beside visits, and shown beside nothing.</summary>
    [Fact]
    public void Like_stands_beside_like()
    {
        var short_ = new OwnFigures(Clicks: 100, Visits: 90, VisitsByLink: 80, Conversions: 5);
        var direct = new OwnFigures(Clicks: 3, Visits: 90, VisitsByLink: 2, Conversions: 5);
        Assert.Equal(FigureKind.Clicks, short_.Beside(FigureKind.Clicks));
        Assert.Equal(FigureKind.Visits, direct.Beside(FigureKind.Clicks));
        Assert.Equal(FigureKind.Visits, direct.Beside(FigureKind.Visits));
        Assert.Equal(FigureKind.Conversions, direct.Beside(FigureKind.Conversions));
        Assert.All(new[] { FigureKind.Shown, FigureKind.Sent, FigureKind.Delivered, FigureKind.Opened }, kind =>
            Assert.Null(short_.Beside(kind))
        );
        Assert.Null(FigureGap.Of(FigureKind.Visits, new OtherFigures(Clicks: 5), short_, FigureEvidence.None));
    }

    [Fact]
    public void Causes_stand_by_their_evidence_and_what_is_left_comes_last()
    {
        var evidence = new FigureEvidence
        {
            Programs = 30,
            DoubleTaps = 5,
            New = 10,
        };
        Assert.Equal("Programs 30, New 10, DoubleTaps 5, Unexplained 55", Causes(Of(200, 100, evidence, FigureKind.Clicks)));
        Assert.Equal("Programs 20", Causes(Of(120, 100, evidence with { DoubleTaps = 0, New = 0 }, FigureKind.Clicks)));

        var clicked = new GapEvidence(200, 100, Programs: 20, Elsewhere: 40, Silent: 15, Reused: 25);
        Assert.Equal(
            "TagsLost 40, Reused 25, Programs 20, Blocked 15, Strays 10, Unexplained 15",
            Causes(Of(200, 100, new FigureEvidence { Clicked = clicked, Strays = 10 }))
        );
    }

    /// <summary>Without clicks of ours, what is wrong with the page stands for what nothing else explains.</summary>
    [Fact]
    public void What_is_wrong_with_the_page_explains_what_nothing_else_does()
    {
        Assert.Equal("PageBroken 30, Strays 10", Causes(Of(100, 60, new FigureEvidence { Found = [Broken], Strays = 10 })));
        Assert.Equal("TagsLost 40", Causes(Of(100, 60, new FigureEvidence { Found = [Dropped] })));
        Assert.Equal("NotMeasured 100", Causes(Of(100, 0, new FigureEvidence { PageMeasured = false })));
        Assert.Contains("drops utm_source", Of(100, 60, new FigureEvidence { Found = [Dropped] }).Causes[0].Says, StringComparison.Ordinal);

        // Where one link in four leads there, it explains a quarter.
        Assert.Equal(
            "Unexplained 30, TagsLost 10".Split(", ").Order(),
            Causes(Of(100, 60, new FigureEvidence { Found = [Dropped], FoundShare = 0.25 })).Split(", ").Order()
        );
    }

    [Fact]
    public void Where_ours_are_more_it_says_who_came_otherwise()
    {
        var clicked = new GapEvidence(150, 150, Reused: 40, WithoutClick: 20);
        Assert.Equal("Reused 40, WithoutClick 20", Causes(Of(100, 150, new FigureEvidence { Clicked = clicked })));
        Assert.Equal("", Causes(Of(100, 100, new FigureEvidence { Clicked = clicked })));
    }

    /// <summary>A cause is never larger than what is missing, whatever the evidence, and its sentences end.</summary>
    [Fact]
    public void No_cause_explains_more_than_is_missing()
    {
        var random = new Random(7);
        for (int i = 0; i < 2_000; i++)
        {
            long Some() => random.Next(0, 200);
            var gap = Of(
                Some(),
                Some(),
                new FigureEvidence
                {
                    Programs = Some(),
                    DoubleTaps = Some(),
                    New = Some(),
                    Strays = Some(),
                    Clicked = random.Next(2) == 0 ? null : new GapEvidence(Some(), Some(), Some(), Some(), Some(), Some(), Some(), Some()),
                    Found = random.Next(3) switch
                    {
                        0 => [Broken],
                        1 => [Dropped],
                        _ => [],
                    },
                    FoundShare = random.NextDouble(),
                    PageMeasured = random.Next(2) == 0,
                },
                random.Next(2) == 0 ? FigureKind.Clicks : FigureKind.Visits
            );
            decimal difference = Math.Abs(gap.Theirs - gap.Ours);
            Assert.All(gap.Causes, c => Assert.InRange(c.Missing, 1, difference));
            Assert.All(gap.Causes, c => Assert.EndsWith(".", c.Says, StringComparison.Ordinal));
            Assert.Equal(gap.Causes.Count, gap.Causes.DistinctBy(c => c.Kind).Count());
        }
    }

    [Fact]
    public void The_likeliest_cause_explains_the_most_whatever_stands_first()
    {
        Assert.Equal(FigureCauseKind.Unexplained, Of(100, 22, new FigureEvidence { New = 2 }).Likeliest!.Kind);
        Assert.Equal(FigureCauseKind.New, Of(100, 70, new FigureEvidence { New = 20 }).Likeliest!.Kind);
        Assert.Null(Of(100, 100).Likeliest);
    }

    [Fact]
    public void Their_figures_have_rates_among_themselves_only_where_there_is_something_to_divide_by()
    {
        Assert.Empty(new OtherFigures(Shown: 0, Clicks: 4).Shares());
        Assert.Empty(new OtherFigures(Clicks: 4).Shares());
        Assert.Equal(
            [
                new FigureShare(FigureKind.Delivered, FigureKind.Sent, 0.95),
                new FigureShare(FigureKind.Opened, FigureKind.Delivered, 0.5),
                new FigureShare(FigureKind.Clicks, FigureKind.Delivered, 0.1),
                new FigureShare(FigureKind.Conversions, FigureKind.Clicks, 0.5),
            ],
            new OtherFigures(Sent: 200, Delivered: 190, Opened: 95, Clicks: 19, Conversions: 9.5m).Shares()
        );
    }

    /// <summary>2026-11-02 is a Monday; a week with fewer than 50 says nothing.</summary>
    [Fact]
    public void Weeks_begin_on_monday_and_days_without_their_figure_are_left_out()
    {
        var days = new FigureDays([
            (new DateOnly(2026, 11, 1), new OtherFigures(Clicks: 40), new OwnFigures(40, 30, 30, 0)),
            (new DateOnly(2026, 11, 2), new OtherFigures(Clicks: 60), new OwnFigures(45, 30, 30, 0)),
            (new DateOnly(2026, 11, 5), new OtherFigures(Shown: 900), new OwnFigures(500, 30, 30, 0)),
            (new DateOnly(2026, 11, 8), new OtherFigures(Clicks: 40), new OwnFigures(30, 30, 30, 0)),
        ]);
        Assert.Equal(new OtherFigures(Shown: 900, Clicks: 140), days.Theirs);
        Assert.Equal(115, days.OursOf(FigureKind.Clicks).Clicks);
        Assert.Equal(
            [
                new FigureWeek(new DateOnly(2026, 10, 26), 40, 40, null, FigureVerdict.TooFew),
                new FigureWeek(new DateOnly(2026, 11, 2), 100, 75, 0.25, FigureVerdict.Finding),
            ],
            days.WeeksOf(FigureKind.Clicks)
        );
        Assert.Equal(25, days.NewOf(FigureKind.Clicks, new DateOnly(2026, 11, 3)));
        Assert.Equal(10, days.NewOf(FigureKind.Clicks, new DateOnly(2026, 11, 9)));
        Assert.Equal(0, days.NewOf(FigureKind.Clicks, new DateOnly(2026, 11, 10)));
    }
}
