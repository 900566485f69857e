using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What was counted on the short links of one link in a stretch of time.</summary>
/// <param name="Clicks">People's clicks on the one for texts.</param>
/// <param name="Scans">People's hits on the one in the code.</param>
/// <param name="Unique">Distinct visitors behind both; a visitor is known for a day, so over several days they are daily visitors, added up.</param>
/// <param name="Others">Hits that were no person's click, by what they were.</param>
/// <param name="Visits">Visits that arrived with the link's tags in that time.</param>
/// <param name="VisitsDue">Visits that clicks and scans can have led to: those by one visitor with no pause longer than a visit's are one.</param>
/// <param name="Unit"><c>hour</c>, <c>day</c> or <c>month</c>: what a step of <paramref name="Series"/> is.</param>
/// <param name="Series">People's clicks and scans over time, in order, steps without any included; beginnings of steps in the workspace's zone.</param>
/// <param name="Countries">By country, most first; empty where it is not known.</param>
/// <param name="Places">By town with its region and country, most first; none where the file of addresses names only countries.</param>
/// <param name="Devices">By kind of device, most first.</param>
/// <param name="Referrers">By the host they came from, most first; empty for none.</param>
/// <param name="WeekHours">People's clicks and scans by weekday (Monday first) and hour: 7 × 24 figures.</param>
public sealed record LinkCounts(
    long Clicks,
    long Scans,
    long Unique,
    IReadOnlyDictionary<string, long> Others,
    long Visits,
    long VisitsDue,
    string Unit,
    IReadOnlyList<CountStep> Series,
    IReadOnlyList<CountOf> Countries,
    IReadOnlyList<CountOf> Places,
    IReadOnlyList<CountOf> Devices,
    IReadOnlyList<CountOf> Referrers,
    IReadOnlyList<long> WeekHours
);

/// <summary>One step of time.</summary>
public sealed record CountStep(DateTime From, long Clicks, long Scans);

/// <summary>How many of one kind.</summary>
public sealed record CountOf(string Name, long Hits);
