using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Ledger;

/// <summary>What came of one link.</summary>
/// <param name="Counts">The counts.</param>
/// <param name="Reuse">Signs that the printed code's short link is used elsewhere too, in the order they began; empty for none.</param>
/// <param name="SharedAt">The address strangers may look at the results under; null where there is none.</param>
/// <param name="TimeZone">IANA name of the zone its hours and days are in.</param>
/// <param name="RawFrom">The day counting begins on where the range begins earlier, since clicks before it are no longer kept one by one; null else.</param>
public sealed record LinkResultsAnswer(
    LinkCounts Counts,
    IReadOnlyList<ReuseEvidence> Reuse,
    string? SharedAt,
    string TimeZone,
    DateOnly? RawFrom
);

/// <summary>The address of a results page.</summary>
public sealed record SharedResults(string Address);
