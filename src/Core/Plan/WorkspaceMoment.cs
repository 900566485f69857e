using System.Globalization;

namespace PreciseBeacon.Core.Plan;

/// <summary>Moments as people write them where the workspace is.</summary>
public static class WorkspaceMoment
{
    /// <summary>Hours within which clocks are changed at most once.</summary>
    private const int Around = 26;

    private static readonly string[] Local =
    [
        "yyyy-MM-dd'T'HH:mm",
        "yyyy-MM-dd'T'HH:mm:ss",
        "yyyy-MM-dd'T'HH:mm:ss.FFFFFFF",
        "yyyy-MM-dd HH:mm",
        "yyyy-MM-dd",
    ];
    private static readonly string[] WithOffset = ["yyyy-MM-dd'T'HH:mmK", "yyyy-MM-dd'T'HH:mm:ssK", "yyyy-MM-dd'T'HH:mm:ss.FFFFFFFK"];

    /// <summary>Reads a moment: with an offset as it stands (ISO 8601), without one in the workspace's zone.</summary>
    /// <param name="text">The text.</param>
    /// <param name="zone">IANA name of the workspace's zone.</param>
    /// <returns>The moment, in UTC; null when it is none. An hour that a change of clocks skips counts from the offset before it; of one that comes twice the first is taken.</returns>
    public static DateTimeOffset? Read(string text, string zone)
    {
        if (DateTime.TryParseExact(text.Trim(), Local, CultureInfo.InvariantCulture, DateTimeStyles.None, out var local))
        {
            // The offset of some hours before goes first: so the first of two equal hours is taken, and a skipped one counts on.
            var rules = TimeZoneInfo.FindSystemTimeZoneById(zone);
            var around = new[] { -Around, Around }
                .Select(hours => rules.GetUtcOffset(new DateTimeOffset(local.AddHours(hours), TimeSpan.Zero)))
                .Select(offset => new DateTimeOffset(local, offset))
                .ToList();
            var real = around.Where(moment => TimeZoneInfo.ConvertTime(moment, rules).DateTime == local).ToList();
            return (real.Count > 0 ? real[0] : around[0]).ToUniversalTime();
        }

        return DateTimeOffset.TryParseExact(text.Trim(), WithOffset, CultureInfo.InvariantCulture, DateTimeStyles.None, out var given)
            ? given.ToUniversalTime()
            : null;
    }

    /// <summary>A moment as it is written where the workspace is, to the minute, as <see cref="Read"/> takes it.</summary>
    public static string Write(DateTimeOffset moment, string zone) =>
        TimeZoneInfo
            .ConvertTime(moment, TimeZoneInfo.FindSystemTimeZoneById(zone))
            .ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture);
}

/// <summary>Which day it is where the workspace is.</summary>
public static class WorkspaceDay
{
    /// <summary>The day at a moment.</summary>
    /// <param name="moment">The moment.</param>
    /// <param name="zone">IANA name of the workspace's zone.</param>
    public static DateOnly At(DateTimeOffset moment, string zone) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(moment, TimeZoneInfo.FindSystemTimeZoneById(zone)).DateTime);
}
