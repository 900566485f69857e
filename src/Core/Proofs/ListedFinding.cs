using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Proofs;

/// <summary>What a finding in the list is about.</summary>
public enum FindingArea
{
    /// <summary>A page that links lead to, by its address.</summary>
    Page,

    /// <summary>Strays that mean the same, by the first of them.</summary>
    Stray,

    /// <summary>Tags on links inside one's own site, by the page they stand on.</summary>
    Inside,

    /// <summary>Clicks without visits, by the link's id.</summary>
    Gap,

    /// <summary>A trial that failed, by its id.</summary>
    Trial,

    /// <summary>Variants one of which is clearly better, by their page.</summary>
    Variant,

    /// <summary>Another system's figure with a gap, by its key.</summary>
    Figure,
}

/// <summary>Something found by any of the checks, as it stands now.</summary>
/// <param name="Key">The same for the same thing found again, at most 3,000 characters.</param>
/// <param name="Area">What it is about.</param>
/// <param name="About">Which of them.</param>
/// <param name="Severity">How grave it is; an info is good to know, and not counted.</param>
/// <param name="Subject">What it is about, as people call it.</param>
/// <param name="Message">What was found and what to do, in a sentence or two.</param>
/// <param name="Weight">How much it touches, in visits or links.</param>
public sealed record ListedFinding(
    string Key,
    FindingArea Area,
    string About,
    Severity Severity,
    string Subject,
    string Message,
    long Weight
);

/// <summary>What became of a finding.</summary>
public enum FindingChange
{
    /// <summary>It was found in the last seven days.</summary>
    New,

    /// <summary>It touches half as much again as when it was found.</summary>
    Worse,

    /// <summary>It is as it was.</summary>
    Known,

    /// <summary>It is found no longer.</summary>
    Gone,
}

/// <summary>Says what became of findings (ours).</summary>
public static class FindingChanges
{
    /// <summary>A finding is new for so long.</summary>
    public static readonly TimeSpan NewFor = TimeSpan.FromDays(7);

    private const double WorseBy = 1.5;
    private const long WorseByLeast = 10;

    /// <summary>What became of a finding.</summary>
    /// <param name="firstSeen">When it was found.</param>
    /// <param name="gone">It is found no longer.</param>
    /// <param name="then">How much it touched when it was found.</param>
    /// <param name="weight">How much it touches now.</param>
    /// <param name="now">The moment.</param>
    public static FindingChange Of(DateTimeOffset firstSeen, bool gone, long then, long weight, DateTimeOffset now) =>
        gone ? FindingChange.Gone
        : weight >= then * WorseBy && weight - then >= WorseByLeast ? FindingChange.Worse
        : now - firstSeen < NewFor ? FindingChange.New
        : FindingChange.Known;
}
