using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>A best time to post is told only where chance allows it.</summary>
public sealed class PostingTimesTests
{
    private static readonly Guid[] Placements = [Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid()];

    /// <summary>Postings whose visits are drawn by Poisson's law, with a mean of their placement and more at one hour.</summary>
    private static List<PostingOutcome> Drawn(Random random, int postings, double lift)
    {
        double[] means = [4, 12, 40];
        return
        [
            .. Enumerable
                .Range(0, postings)
                .Select(i =>
                {
                    int placement = i % 3,
                        hour = random.Next(8, 14);
                    double mean = means[placement] * (hour == 9 ? 1 + lift : 1);
                    return new PostingOutcome(Placements[placement], hour, Poisson(random, mean));
                }),
        ];
    }

    /// <summary>Knuth's way of drawing by Poisson's law (The Art of Computer Programming 2, 3.4.1).</summary>
    private static long Poisson(Random random, double mean)
    {
        double limit = Math.Exp(-mean),
            product = random.NextDouble();
        long n = 0;
        while (product > limit)
        {
            product *= random.NextDouble();
            n++;
        }

        return n;
    }

    [Fact]
    public void Chance_alone_names_a_best_hour_in_about_one_case_of_a_hundred()
    {
        var random = new Random(7);
        int told = Enumerable.Range(0, 200).Count(_ => PostingTimes.Of(Drawn(random, 60, 0), random) is not null);
        Assert.InRange(told, 0, 6); // 200 × 1 % and three standard deviations
    }

    [Fact]
    public void An_hour_that_brings_half_as_many_again_is_found_though_placements_differ_tenfold()
    {
        var random = new Random(11);
        var found = Enumerable.Range(0, 20).Select(_ => PostingTimes.Of(Drawn(random, 150, 0.5), random)).OfType<BestTime>().ToList();
        Assert.InRange(found.Count, 18, 20);
        Assert.All(found, f => Assert.Equal(9, f.Group));
        Assert.InRange(found.Average(f => f.Lift), 0.3, 0.6);
    }

    [Fact]
    public void A_placement_that_brings_more_does_not_make_its_hour_the_best()
    {
        // The large placement is posted to at 9 alone, so nothing is known of hours.
        List<PostingOutcome> outcomes =
        [
            .. Enumerable.Range(0, 20).Select(i => new PostingOutcome(Placements[0], 9, 100 + (i % 3))),
            .. Enumerable.Range(0, 20).Select(i => new PostingOutcome(Placements[1], 10 + (i % 4), 10 + (i / 4 % 3))),
        ];
        Assert.Null(PostingTimes.Of(outcomes, new Random(1)));
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(4)]
    public void Little_says_nothing(int postings) =>
        Assert.Null(
            PostingTimes.Of(
                [.. Enumerable.Range(0, postings).Select(i => new PostingOutcome(Placements[0], i % 2, i % 2 == 0 ? 500 : 1))],
                new Random(1)
            )
        );

    [Fact]
    public void Postings_without_visits_or_all_at_one_time_say_nothing()
    {
        Assert.Null(PostingTimes.Of([.. Enumerable.Range(0, 50).Select(i => new PostingOutcome(null, i % 5, 0))], new Random(1)));
        Assert.Null(PostingTimes.Of([.. Enumerable.Range(0, 50).Select(i => new PostingOutcome(null, 9, i))], new Random(1)));
    }
}
