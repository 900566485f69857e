using System.Globalization;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Proofs;

/// <summary>
/// Tells when a page that was measured is measured no longer, though people still click the links that lead there. Without clicks nobody
/// can tell: a campaign may just be over.
/// </summary>
public static class PageSilence
{
    /// <summary>Clicks by people since the last measured visit that must be there for any word (ours).</summary>
    public const int LeastClicks = 10;

    /// <summary>Days without a visit from which it is said; fewer may be chance (ours).</summary>
    public const int LeastDays = 3;

    /// <summary>The finding; null where nothing is to be said.</summary>
    /// <param name="last">The day of the last visit that landed on the page; null where none ever did, which other findings say.</param>
    /// <param name="clicks">Clicks by people on links to it on later days.</param>
    /// <param name="today">Today.</param>
    public static Finding? Of(DateOnly? last, long clicks, DateOnly today) =>
        last is { } day && today.DayNumber - day.DayNumber is var days && days >= LeastDays && clicks >= LeastClicks
            ? new Finding(
                FindingRules.MeasuredNoLonger,
                Severity.Warning,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Nothing was measured on this page for {days:N0} days, though people clicked its links {clicks:N0} times. Look whether the page still has the script, and whether it still answers."
                )
            )
            : null;
}
