namespace PreciseBeacon.Core.Traffic;

/// <summary>How long single visits and clicks are kept: whole months before the current one.</summary>
public static class KeptSpan
{
    /// <summary>The first day that is kept.</summary>
    /// <param name="today">The day it is in the workspace's zone.</param>
    /// <param name="months">Whole months before the current one.</param>
    public static DateOnly FirstDay(DateOnly today, int months) => new DateOnly(today.Year, today.Month, 1).AddMonths(-months);
}
