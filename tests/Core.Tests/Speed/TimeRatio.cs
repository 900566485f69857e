using System.Diagnostics;

namespace PreciseBeacon.CoreTests.Speed;

/// <summary>How long work takes beside a reference in the same run, since the machine is shared.</summary>
internal static class TimeRatio
{
    /// <summary>
    /// The median of many short rounds, each with its own reference right after it: what else runs on the machine for a
    /// while slows both, or a few rounds only.
    /// </summary>
    /// <param name="textsOf">The texts of a round, by its number from 0.</param>
    public static double Median(int rounds, Func<int, string[]> textsOf, Action<string> work, Action<string> reference)
    {
        var ratios = new double[rounds];
        for (int round = 0; round < rounds; round++)
        {
            string[] texts = textsOf(round);
            double worked = Time(texts, work);
            ratios[round] = worked / Time(texts, reference);
        }

        Array.Sort(ratios);
        return ratios[rounds / 2];
    }

    private static double Time(string[] texts, Action<string> work)
    {
        long began = Stopwatch.GetTimestamp();
        Array.ForEach(texts, work);
        return Stopwatch.GetElapsedTime(began).TotalMicroseconds;
    }
}
