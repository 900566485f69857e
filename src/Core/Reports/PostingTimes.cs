namespace PreciseBeacon.Core.Reports;

/// <summary>How many visits one posting brought on its first day, and what it is told apart by.</summary>
/// <param name="Placement">Where it was posted; postings of one placement compare with each other.</param>
/// <param name="Group">What is asked about, such as its weekday or the hour it was posted in.</param>
/// <param name="Visits">Visits in the 24 hours after it.</param>
public sealed record PostingOutcome(Guid? Placement, int Group, long Visits);

/// <summary>A time that brings more than the others.</summary>
/// <param name="Group">The weekday or hour.</param>
/// <param name="Lift">Its visits by those its placements bring on average, less one.</param>
/// <param name="Postings">How many postings it is known from.</param>
/// <param name="Chance">How often chance alone would show as much somewhere, between 0 and 1.</param>
public sealed record BestTime(int Group, double Lift, int Postings, double Chance);

/// <summary>
/// Tells whether postings of one weekday or hour bring more visits than those of others. Placements differ more than times do, so a
/// posting compares with the mean of its own placement only; and how much chance makes of it is found by shuffling the times within each
/// placement, taking the best of all times each time (a permutation test of the largest statistic; Westfall and Young, Resampling-Based
/// Multiple Testing, 1993; from memory). It needs no distribution, and looking at 24 hours at once is paid for.
/// </summary>
public static class PostingTimes
{
    /// <summary>
    /// A time is told where chance shows as much in at most so many cases (ours): fewer than the usual one in twenty, since two questions
    /// are asked, and asked again each time somebody looks.
    /// </summary>
    public const double MostChance = 0.01;

    /// <summary>Postings a time is known from at least (ours).</summary>
    public const int FewestPostings = 5;

    /// <summary>Visits of all postings together, below which nothing is said (ours, as for variant tests).</summary>
    public const int FewestVisits = 50;

    private const int Shuffles = 2_000;

    /// <summary>The time that brings most, where chance allows saying so; null else.</summary>
    /// <param name="outcomes">Postings whose first day is over, at most some thousands.</param>
    /// <param name="random">Where shuffling takes its numbers from.</param>
    public static BestTime? Of(IReadOnlyCollection<PostingOutcome> outcomes, Random random)
    {
        // A placement with a single posting, or without visits, says nothing about times.
        var placements = outcomes
            .GroupBy(o => o.Placement)
            .Select(g => g.ToList())
            .Where(g => g.Count > 1 && g.Sum(o => o.Visits) > 0)
            .ToList();
        var all = placements.SelectMany(p => p).ToList();
        if (all.Sum(o => o.Visits) < FewestVisits)
        {
            return null;
        }

        int[] groups = [.. all.Select(o => o.Group).Distinct().Order()];
        int[] sizes = [.. groups.Select(g => all.Count(o => o.Group == g))];
        if (groups.Length < 2 || !sizes.Any(s => s >= FewestPostings && s < all.Count))
        {
            return null;
        }

        // Pearson residuals: visits beyond the placement's mean, by the spread such a mean has if only chance is at work.
        double[] residuals = [.. placements.SelectMany(p => ResidualsOf(p))];
        int[] groupOf = [.. all.Select(o => Array.IndexOf(groups, o.Group))];
        var (best, most) = Largest(residuals, groupOf, sizes);
        if (most <= 0)
        {
            return null;
        }

        int asLarge = 0;
        int[] shuffled = [.. groupOf];
        for (int i = 0; i < Shuffles; i++)
        {
            int first = 0;
            foreach (var placement in placements)
            {
                random.Shuffle(shuffled.AsSpan(first, placement.Count));
                first += placement.Count;
            }

            asLarge += Largest(residuals, shuffled, sizes).Most >= most - 1e-9 ? 1 : 0;
        }

        double chance = (asLarge + 1.0) / (Shuffles + 1.0);
        if (chance > MostChance)
        {
            return null;
        }

        double expected = placements.Sum(p => p.Average(o => o.Visits) * p.Count(o => o.Group == groups[best]));
        long seen = all.Where(o => o.Group == groups[best]).Sum(o => o.Visits);
        return new BestTime(groups[best], (seen / expected) - 1, sizes[best], chance);
    }

    private static IEnumerable<double> ResidualsOf(List<PostingOutcome> placement)
    {
        double mean = placement.Average(o => o.Visits);
        return placement.Select(o => (o.Visits - mean) / Math.Sqrt(mean));
    }

    /// <summary>The group whose residuals are farthest above none, by the spread of their mean.</summary>
    private static (int Group, double Most) Largest(double[] residuals, int[] groupOf, int[] sizes)
    {
        Span<double> sums = stackalloc double[sizes.Length];
        for (int i = 0; i < residuals.Length; i++)
        {
            sums[groupOf[i]] += residuals[i];
        }

        var (best, most) = (0, double.NegativeInfinity);
        for (int g = 0; g < sizes.Length; g++)
        {
            double statistic = sizes[g] >= FewestPostings ? sums[g] / Math.Sqrt(sizes[g]) : double.NegativeInfinity;
            if (statistic > most)
            {
                (best, most) = (g, statistic);
            }
        }

        return (best, most);
    }
}
