namespace PreciseBeacon.Core.Plan;

/// <summary>Which day it is where the workspace is.</summary>
public static class WorkspaceDay
{
    /// <summary>The day at a moment.</summary>
    /// <param name="moment">The moment.</param>
    /// <param name="zone">IANA name of the workspace's zone.</param>
    public static DateOnly At(DateTimeOffset moment, string zone) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(moment, TimeZoneInfo.FindSystemTimeZoneById(zone)).DateTime);
}
