using PreciseBeacon.Core.Chance;
using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

public sealed class VariantTestTests
{
    private static readonly DateOnly Start = new(2026, 7, 1);

    private static Variant Made(long trials, long successes) => new([new VariantDay(Start, trials, successes)]);

    private static VariantOutcome OutcomeOf(params (long Trials, long Successes)[] variants) =>
        VariantTest.Of([.. variants.Select(v => Made(v.Trials, v.Successes))]).Outcome;

    /// <summary>Expected conversions on the smaller side: 2 × 5 / 200 × 100 = 5 allows a word, one visitor more without a conversion does not.</summary>
    [Fact]
    public void Nobody_is_told_anything_before_each_side_expects_five_conversions()
    {
        Assert.NotEqual(VariantOutcome.TooFew, OutcomeOf((100, 10), (100, 0)));
        Assert.Equal(VariantOutcome.TooFew, OutcomeOf((100, 10), (101, 0)));
        Assert.Equal(VariantOutcome.TooFew, OutcomeOf((5_000, 200), (100, 20)));
        Assert.Equal(VariantOutcome.TooFew, OutcomeOf((5_000, 0), (5_000, 0)));
        Assert.Equal(VariantOutcome.TooFew, OutcomeOf((5_000, 100), (0, 0)));
        Assert.Equal(VariantOutcome.TooFew, OutcomeOf((0, 0), (0, 0)));
        Assert.Equal(VariantOutcome.TooFew, OutcomeOf((10, 1)));
    }

    [Fact]
    public void A_great_difference_is_clear_a_small_one_leans_and_none_is_too_close()
    {
        Assert.Equal(VariantOutcome.Clear, OutcomeOf((1_000, 30), (1_000, 80)));
        Assert.Equal(VariantOutcome.Leaning, OutcomeOf((1_000, 40), (1_000, 62)));
        Assert.Equal(VariantOutcome.TooClose, OutcomeOf((1_000, 50), (1_000, 55)));
        var clear = VariantTest.Of([Made(1_000, 30), Made(1_000, 80)]);
        Assert.Equal((1, 0, (long?)null), (clear.Best, clear.Nearest, clear.MoreNeeded));
        Assert.True(clear.Comparisons[0].Low > 0 && clear.Comparisons[0].Low < 0.05 && clear.Comparisons[0].High > 0.05);
    }

    /// <summary>The half width by hand: p̄ 0.055, V = 0.055·0.945·0.002, t = 1/V, ρ = 500/(0.055·0.945)/8, α 0.05.</summary>
    [Fact]
    public void The_interval_is_the_one_of_the_formula()
    {
        double variance = 0.055 * 0.945 * 0.002,
            t = 1 / variance,
            rho = 500 / (0.055 * 0.945) / 8;
        double half = variance * Math.Sqrt((t + rho) * Math.Log((t + rho) / (rho * 0.0025)));
        var told = VariantTest.Of([Made(1_000, 30), Made(1_000, 80)]).Comparisons[0];
        Assert.Equal(0.05 - half, told.Low!.Value, 12);
        Assert.Equal(0.05 + half, told.High!.Value, 12);
        Assert.Equal(half, ConfidenceSequence.For(0.055, 0.05).HalfWidth(0.055, 1_000, 1_000), 12);
    }

    /// <summary>As many more as are named are enough if rates stay as they are, and a tenth fewer are not.</summary>
    [Fact]
    public void How_many_more_are_needed_is_enough_and_not_far_too_many()
    {
        var told = VariantTest.Of([Made(10_000, 400), Made(10_000, 470)]);
        double more = told.MoreNeeded!.Value;
        Assert.Equal(VariantOutcome.Clear, Grown(more / 20_000));
        Assert.NotEqual(VariantOutcome.Clear, Grown(more * 0.85 / 20_000));
        Assert.Null(VariantTest.Of([Made(1_000, 50), Made(1_000, 50)]).MoreNeeded);
        Assert.Equal(40, VariantTest.Of([Made(80, 8), Made(80, 0)]).MoreNeeded); // 160 · (5 / (80 · 8/160) − 1)

        // The look of the first day stays what it was.
        static VariantOutcome Grown(double by) =>
            VariantTest
                .Of([
                    new Variant([new(Start, 10_000, 400), new(Start.AddDays(1), (long)(10_000 * by), (long)(400 * by))]),
                    new Variant([new(Start, 10_000, 470), new(Start.AddDays(1), (long)(10_000 * by), (long)(470 * by))]),
                ])
                .Outcome;
    }

    /// <summary>The best has to beat every other one, each pair at its share of the risk.</summary>
    [Fact]
    public void Of_several_the_best_beats_all_others_or_none_is_clear()
    {
        Assert.Equal(VariantOutcome.Clear, OutcomeOf((1_000, 20), (1_000, 100), (1_000, 25)));
        Assert.NotEqual(VariantOutcome.Clear, OutcomeOf((1_000, 20), (1_000, 100), (1_000, 95)));
        var told = VariantTest.Of([Made(1_000, 20), Made(1_000, 100), Made(1_000, 95)]);
        Assert.Equal((1, 2), (told.Best, told.Nearest));

        // One that hardly anybody has seen keeps nobody from telling the others apart, however well it did.
        var few = VariantTest.Of([Made(1_000, 20), Made(1_000, 100), Made(10, 9)]);
        Assert.Equal((VariantOutcome.Clear, 1), (few.Outcome, few.Best));
        Assert.Equal([0], few.Comparisons.Select(c => c.Other));
    }

    [Fact]
    public void Two_hundred_variants_are_judged_at_once()
    {
        var random = new Random(5);
        var variants = Enumerable
            .Range(0, 200)
            .Select(_ => new Variant([.. Enumerable.Range(0, 90).Select(d => new VariantDay(Start.AddDays(d), 100, random.Next(8)))]))
            .ToList();
        Assert.Equal(199, VariantTest.Of(variants).Comparisons.Count);
    }

    /// <summary>
    /// Somebody looks every day for 60 days, and there is no difference: at most one test in twenty is ever called clear, whatever the
    /// shares and the rate. The plain test at each look would be wrong several times as often (reports, section 5).
    /// </summary>
    [Theory]
    [InlineData(1, 0.002)]
    [InlineData(1, 0.03)]
    [InlineData(1, 0.3)]
    [InlineData(10, 0.002)]
    [InlineData(10, 0.03)]
    [InlineData(10, 0.3)]
    [InlineData(50, 0.002)]
    [InlineData(50, 0.03)]
    [InlineData(50, 0.3)]
    public void Looking_every_day_finds_no_difference_where_there_is_none(int share, double rate)
    {
        const int Runs = 200,
            Days = 60,
            Smaller = 60;
        var random = new Random(11);
        int clear = 0,
            plain = 0;
        for (int run = 0; run < Runs; run++)
        {
            var (one, other) = (new List<VariantDay>(), new List<VariantDay>());
            bool called = false,
                calledPlain = false;
            for (int day = 0; day < Days; day++)
            {
                one.Add(new VariantDay(Start.AddDays(day), Smaller * share, Draw(random, Smaller * share, rate)));
                other.Add(new VariantDay(Start.AddDays(day), Smaller, Draw(random, Smaller, rate)));
                var verdict = VariantTest.Of([new Variant([.. one]), new Variant([.. other])]);
                called |= verdict.Outcome == VariantOutcome.Clear;
                calledPlain |= verdict.Comparisons is [{ P: < 0.05 }];
            }

            clear += called ? 1 : 0;
            plain += calledPlain ? 1 : 0;
        }

        Assert.InRange(clear, 0, Runs / 20);
        Assert.True(plain > clear, $"the plain test was wrong {plain} times, this one {clear}");
    }

    /// <summary>3 % against 5 %, 100 a day each: nearly always found within 60 days, half by about day 16 (reports, section 5).</summary>
    [Fact]
    public void A_true_difference_is_found()
    {
        const int Runs = 200;
        var random = new Random(3);
        var found = new List<int>();
        for (int run = 0; run < Runs; run++)
        {
            var (one, other) = (new List<VariantDay>(), new List<VariantDay>());
            for (int day = 0; day < 60; day++)
            {
                one.Add(new VariantDay(Start.AddDays(day), 100, Draw(random, 100, 0.03)));
                other.Add(new VariantDay(Start.AddDays(day), 100, Draw(random, 100, 0.05)));
                if (VariantTest.Of([new Variant([.. one]), new Variant([.. other])]).Outcome == VariantOutcome.Clear)
                {
                    found.Add(day + 1);
                    break;
                }
            }
        }

        Assert.InRange(found.Count, Runs * 97 / 100, Runs);
        Assert.InRange(found.Order().ElementAt(Runs / 2), 12, 22);
    }

    private static long Draw(Random random, int trials, double rate)
    {
        long successes = 0;
        for (int i = 0; i < trials; i++)
        {
            successes += random.NextDouble() < rate ? 1 : 0;
        }

        return successes;
    }
}
