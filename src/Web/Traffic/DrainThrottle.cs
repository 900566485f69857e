using System.Diagnostics;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Web.Traffic;

/// <summary>
/// How long background work rests after each batch, so that traffic goes first: the busier the door, the longer. What
/// waits meanwhile is safe in the spool; once that is half full, moving goes before resting.
/// </summary>
/// <param name="spool">The spool the door appends to.</param>
public sealed class DrainThrottle(Spool spool)
{
    private const double CalmEventsPerSecond = 500;
    private const double LeastRests = 2;
    private const double MostRests = 60;
    private static readonly TimeSpan ShortestRest = TimeSpan.FromMilliseconds(20);
    private static readonly TimeSpan LongestRest = TimeSpan.FromSeconds(10);

    private long _countedAt = Stopwatch.GetTimestamp();
    private long _counted;

    /// <summary>The rest that is due after a batch that took so long.</summary>
    public TimeSpan RestAfter(TimeSpan worked)
    {
        long count = spool.Appended;
        double seconds = Stopwatch.GetElapsedTime(_countedAt).TotalSeconds;
        double perSecond = (count - _counted) / Math.Max(seconds, 0.001);
        (_counted, _countedAt) = (count, Stopwatch.GetTimestamp());
        double rests = spool.Fullness > 0.5 ? 0 : Math.Clamp(perSecond / CalmEventsPerSecond, LeastRests, MostRests);
        var rest = worked * rests;
        return rest < ShortestRest ? ShortestRest
            : rest > LongestRest ? LongestRest
            : rest;
    }
}
