using PreciseBeacon.Core.Chance;

namespace PreciseBeacon.Core.Proofs;

/// <summary>
/// Tells which of some variants converts best, in a way that stays honest for somebody who looks every day (reports, section 5; rules,
/// section 7): the verdict follows a confidence sequence for each pair, with the risk shared out over all pairs.
/// </summary>
public static class VariantTest
{
    /// <summary>How often any verdict of a test may ever be wrong (common practice).</summary>
    public const double Alpha = 0.05;

    /// <summary>No verdict before each side expects so many conversions (reports, section 5).</summary>
    public const double LeastExpected = 5;

    /// <summary>More than so many further visitors are not named: nobody waits for them (ours).</summary>
    private const double MostNamed = 10_000_000;

    /// <summary>Judges variants.</summary>
    /// <param name="variants">Each by day; at least one.</param>
    public static VariantVerdict Of(IReadOnlyList<Variant> variants)
    {
        var seen = variants.Select((v, i) => (Index: i, v.Trials, v.Successes)).Where(v => v.Trials > 0).ToList();
        double pooled = seen.Count == 0 ? 0 : (double)seen.Sum(v => v.Successes) / seen.Sum(v => v.Trials);

        // One that hardly anybody has seen keeps nobody from telling the others apart.
        var told = seen.Where(v => pooled * v.Trials >= LeastExpected)
            .OrderByDescending(v => (double)v.Successes / v.Trials)
            .ThenByDescending(v => v.Trials)
            .ToList();
        if (told.Count < 2)
        {
            var two = seen.OrderByDescending(v => v.Trials).Take(2).ToList();
            return new VariantVerdict(
                VariantOutcome.TooFew,
                null,
                null,
                [],
                two.Count < 2 ? null : Expecting(pooled, two[0].Trials, two[1].Trials)
            );
        }

        int pairs = told.Count * (told.Count - 1) / 2;
        var best = told[0];
        var against = told.Skip(1).Select(other => Compare(variants, best, other, Alpha / pairs)).ToList();
        double[] corrected = TwoProportions.Holm([.. against.Select(c => c.P)]);
        against = [.. against.Select((c, i) => c with { P = corrected[i] })];

        // The nearest rival decides: whoever is clearly better than all others is the winner.
        var nearest = against.MinBy(c => c.Low ?? double.NegativeInfinity)!;
        long? more = against.All(c => c.MoreNeeded is not null) ? against.Max(c => c.MoreNeeded) : null;
        var outcome =
            against.Exists(c => c.Low is null) ? VariantOutcome.TooFew
            : against.TrueForAll(c => c.Low > 0) ? VariantOutcome.Clear
            : against.TrueForAll(c => c.P < Alpha) ? VariantOutcome.Leaning
            : VariantOutcome.TooClose;
        return new VariantVerdict(outcome, best.Index, nearest.Other, against, outcome == VariantOutcome.Clear ? null : more);
    }

    private static VariantComparison Compare(
        IReadOnlyList<Variant> variants,
        (int Index, long Trials, long Successes) best,
        (int Index, long Trials, long Successes) other,
        double alpha
    )
    {
        var (one, two) = ((best.Successes, best.Trials), (other.Successes, other.Trials));
        double difference = ((double)best.Successes / best.Trials) - ((double)other.Successes / other.Trials);
        double pooled = TwoProportions.Pooled(one, two);
        if (FirstLook(variants[best.Index], variants[other.Index]) is not { } first || pooled is <= 0 or >= 1)
        {
            return new VariantComparison(
                other.Index,
                difference,
                null,
                null,
                TwoProportions.P(one, two),
                Expecting(pooled, best.Trials, other.Trials)
            );
        }

        var sequence = ConfidenceSequence.For(first, alpha);
        double half = sequence.HalfWidth(pooled, best.Trials, other.Trials);
        return new VariantComparison(
            other.Index,
            difference,
            difference - half,
            difference + half,
            TwoProportions.P(one, two),
            MoreNeeded(sequence, pooled, best.Trials, other.Trials, difference)
        );
    }

    /// <summary>The rate of both together on the first day on which each side expects enough conversions; null before.</summary>
    private static double? FirstLook(Variant one, Variant other)
    {
        long trialsOne = 0,
            trialsOther = 0,
            successes = 0;
        foreach (
            var day in one
                .Days.Select(d => (d.Day, d.Trials, d.Successes, IsOne: true))
                .Concat(other.Days.Select(d => (d.Day, d.Trials, d.Successes, IsOne: false)))
                .GroupBy(d => d.Day)
                .OrderBy(g => g.Key)
        )
        {
            trialsOne += day.Where(d => d.IsOne).Sum(d => d.Trials);
            trialsOther += day.Where(d => !d.IsOne).Sum(d => d.Trials);
            successes += day.Sum(d => d.Successes);
            double pooled = (double)successes / Math.Max(1, trialsOne + trialsOther);
            if (pooled < 1 && pooled * Math.Min(trialsOne, trialsOther) >= LeastExpected)
            {
                return pooled;
            }
        }

        return null;
    }

    /// <summary>About how many more are needed until each side expects enough conversions, at today's rate and shares; null where nobody can say.</summary>
    private static long? Expecting(double pooled, long one, long other) =>
        pooled <= 0 || pooled >= 1 ? null : Rounded((one + other) * ((LeastExpected / (pooled * Math.Min(one, other))) - 1));

    /// <summary>About how many more are needed to tell, if rates and shares stay as they are; null where too many to name.</summary>
    private static long? MoreNeeded(ConfidenceSequence sequence, double pooled, long one, long other, double difference)
    {
        double total = one + other,
            low = 1,
            high = 1;
        while (sequence.HalfWidth(pooled, one * high, other * high) >= difference)
        {
            high *= 2;
            if (total * (high - 1) > MostNamed)
            {
                return null;
            }
        }

        for (int i = 0; i < 40; i++)
        {
            double middle = (low + high) / 2;
            (low, high) = sequence.HalfWidth(pooled, one * middle, other * middle) >= difference ? (middle, high) : (low, middle);
        }

        return Rounded(total * (high - 1));
    }

    /// <summary>Two digits are as much as such a forecast is good for.</summary>
    private static long Rounded(double number)
    {
        if (number <= 10)
        {
            return (long)Math.Max(1, Math.Ceiling(number));
        }

        double unit = Math.Pow(10, Math.Floor(Math.Log10(number)) - 1);
        return (long)(Math.Ceiling(number / unit) * unit);
    }
}

/// <summary>One variant, day by day.</summary>
/// <param name="Days">Visitors or visits and how many of them converted, in the order of days; a day without any may be left out.</param>
public sealed record Variant(IReadOnlyList<VariantDay> Days)
{
    /// <summary>All visitors or visits.</summary>
    public long Trials { get; } = Days.Sum(d => d.Trials);

    /// <summary>Those that converted.</summary>
    public long Successes { get; } = Days.Sum(d => d.Successes);
}

/// <summary>One day of a variant.</summary>
/// <param name="Day">The day.</param>
/// <param name="Trials">Visitors or visits.</param>
/// <param name="Successes">Those that converted, 0 to <paramref name="Trials"/>.</param>
public readonly record struct VariantDay(DateOnly Day, long Trials, long Successes);

/// <summary>What can be told of a test.</summary>
public enum VariantOutcome
{
    /// <summary>There are too few visitors for any word.</summary>
    TooFew,

    /// <summary>They are too alike to tell so far.</summary>
    TooClose,

    /// <summary>One seems better; a plain test at one look would say so, and looking again and again does not yet.</summary>
    Leaning,

    /// <summary>One is better.</summary>
    Clear,
}

/// <summary>The verdict of a test.</summary>
/// <param name="Outcome">What can be told.</param>
/// <param name="Best">Place of the variant with the highest rate, of those with enough visitors; null with fewer than two of these.</param>
/// <param name="Nearest">Place of the one nearest to it; null with fewer than two.</param>
/// <param name="Comparisons">The best with each other one that has enough visitors.</param>
/// <param name="MoreNeeded">About how many more visitors are needed to tell, rounded up to two digits; null where it is told, and where nobody can say or more than ten million are.</param>
public sealed record VariantVerdict(
    VariantOutcome Outcome,
    int? Best,
    int? Nearest,
    IReadOnlyList<VariantComparison> Comparisons,
    long? MoreNeeded
);

/// <summary>The best variant beside another one.</summary>
/// <param name="Other">Place of the other.</param>
/// <param name="Difference">The best one's rate less the other's.</param>
/// <param name="Low">What the difference is at least, at any look; null while neither may be told.</param>
/// <param name="High">What it is at most.</param>
/// <param name="P">How likely such a difference is by chance at a single look, corrected for several (Holm 1979).</param>
/// <param name="MoreNeeded">About how many more visitors are needed to tell the two apart; null where nobody can say.</param>
public sealed record VariantComparison(int Other, double Difference, double? Low, double? High, double P, long? MoreNeeded);
