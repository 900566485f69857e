using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.ResultsPages;

namespace PreciseBeacon.Web.Ledger;

/// <summary>What came of one link.</summary>
/// <param name="Counts">The counts.</param>
/// <param name="Reuse">Signs that the printed code's short link is used elsewhere too, in the order they began; empty for none.</param>
/// <param name="Shared">The page strangers may look at; null where there is none.</param>
/// <param name="Visits">Visits at the points of the counts' series, by their first days; empty by hour, since visits are known by day.</param>
/// <param name="Figures">The same days as a line of Arrivals' board.</param>
/// <param name="TimeZone">IANA name of the zone its hours and days are in.</param>
/// <param name="RawFrom">The day counting begins on where the range begins earlier, since clicks before it are no longer kept one by one; null else.</param>
public sealed record LinkResultsAnswer(
    LinkCounts Counts,
    IReadOnlyList<ReuseEvidence> Reuse,
    SharedResults? Shared,
    IReadOnlyList<ArrivalsDay> Visits,
    FigureAnswer Figures,
    string TimeZone,
    DateOnly? RawFrom
);
