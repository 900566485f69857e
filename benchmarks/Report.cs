using System.Globalization;

namespace PreciseBeacon.Bench;

/// <summary>A ratio of ours to its reference, from interleaved pairs in one run.</summary>
/// <param name="What">What was measured.</param>
/// <param name="Goal">What the ratio should be.</param>
/// <param name="Ours">Our measures, in their own unit.</param>
/// <param name="Reference">The reference's measures, pair by pair.</param>
/// <param name="Unit">The unit of both.</param>
public sealed record Report(string What, string Goal, IReadOnlyList<double> Ours, IReadOnlyList<double> Reference, string Unit)
{
    public static void Print(Report report)
    {
        var ratios = report.Ours.Zip(report.Reference, (ours, reference) => ours / reference).Order().ToList();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{report.What}: ratio {Median(ratios):0.00} (from {ratios[0]:0.00} to {ratios[^1]:0.00} over {ratios.Count} pairs; goal {report.Goal}); ours {Median(report.Ours):#,0.##} {report.Unit}, reference {Median(report.Reference):#,0.##} {report.Unit}, reference's own spread {Spread(report.Reference):0} %"
            )
        );
    }

    private static double Median(IReadOnlyList<double> values)
    {
        var sorted = values.Order().ToList();
        return (sorted[(sorted.Count - 1) / 2] + sorted[sorted.Count / 2]) / 2;
    }

    /// <summary>How far the reference itself swings around its median, in percent: the machine's noise.</summary>
    private static double Spread(IReadOnlyList<double> values) => (values.Max() - values.Min()) / Median(values) * 100;
}
