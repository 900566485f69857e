using System.Globalization;

namespace PreciseBeacon.Core.Proofs;

/// <summary>Says a test's verdict in words.</summary>
public static class VariantText
{
    /// <summary>One sentence, or two.</summary>
    /// <param name="verdict">The verdict.</param>
    /// <param name="names">What the variants are called, in their order.</param>
    /// <param name="unit">What is counted: <c>visitors</c> or <c>visits</c>.</param>
    public static string Of(VariantVerdict verdict, IReadOnlyList<string> names, string unit)
    {
        string more = verdict.MoreNeeded is { } needed
            ? $"about {needed.ToString("N0", CultureInfo.InvariantCulture)} more {unit} are needed to tell, if rates stay as they are."
            : "";
        switch (verdict.Outcome)
        {
            case VariantOutcome.Clear:
                var nearest = verdict.Comparisons.First(c => c.Other == verdict.Nearest);
                return $"“{names[verdict.Best!.Value]}” converts better: by {Points(nearest.Low!.Value)} to {Points(nearest.High!.Value)} percentage points more than “{names[nearest.Other]}”.";
            case VariantOutcome.Leaning:
                return $"“{names[verdict.Best!.Value]}” seems better, but it is too early to say{(more.Length == 0 ? "." : $": {more}")}";
            case VariantOutcome.TooClose:
                return more.Length == 0
                    ? "Too close to call. The rates are so alike that more visitors will hardly tell."
                    : $"Too close to call: {more}";
            default:
                return more.Length == 0
                    ? $"Too few {unit} or conversions to tell anything yet."
                    : $"Too few {unit} yet: about {verdict.MoreNeeded!.Value.ToString("N0", CultureInfo.InvariantCulture)} more before anything can be told.";
        }
    }

    private static string Points(double rate) => (rate * 100).ToString("0.0", CultureInfo.InvariantCulture);
}
