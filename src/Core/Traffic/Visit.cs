namespace PreciseBeacon.Core.Traffic;

/// <summary>One visit, worked out from raw page events.</summary>
public sealed record Visit
{
    /// <summary>The id of its first event.</summary>
    public required Guid Id { get; init; }

    public required Guid WorkspaceId { get; init; }

    public required Guid SiteId { get; init; }

    public required Guid Visitor { get; init; }

    /// <summary>The day it began, in the workspace's zone.</summary>
    public required DateOnly Day { get; init; }

    public required DateTimeOffset StartedAt { get; init; }

    /// <summary>Time of its last event.</summary>
    public required DateTimeOffset EndedAt { get; init; }

    public required RawTags Tags { get; init; }

    /// <summary>Host of the outside referrer, lower case; empty when there was none.</summary>
    public required string ReferrerHost { get; init; }

    /// <summary>Host and path of the first page.</summary>
    public required string LandingPage { get; init; }

    /// <summary>The pages seen, in order.</summary>
    public IReadOnlyList<PageView> Views { get; init; } = [];

    /// <summary>The page seen last, host and path; the first one where no page was seen after it.</summary>
    public string LastPage => Views.Count == 0 ? LandingPage : Views[^1].Page;

    public required VisitDevice Device { get; init; }

    /// <summary>Where its visitor was when it began.</summary>
    public required Whereabouts Place { get; init; }

    /// <summary>The hour it began in, 0 to 23, in the workspace's zone.</summary>
    public required int Hour { get; init; }

    public required bool HasId { get; init; }

    /// <summary>The hash that clicks of the day are kept under.</summary>
    public required Guid DayVisitor { get; init; }

    /// <summary>The visit whose source this one has: itself, or an earlier one of the day that it goes on from.</summary>
    public required Guid SourceVisit { get; init; }

    /// <summary>It came through a printed code.</summary>
    public bool Printed { get; init; }

    /// <summary>What was typed behind the short link it came by; empty for nothing.</summary>
    public string Typed { get; init; } = "";

    /// <summary>The hit on a short link that led to it; null where none did.</summary>
    public Guid? HitId { get; init; }

    /// <summary>The opening of a trial's address that it began with; it is in no figure then. Null for all others.</summary>
    public TrialHit? Trial { get; init; }

    /// <summary>The link it came by; null where none is known.</summary>
    public Guid? LinkId { get; init; }

    public int PageViews => Views.Count;

    public int Events { get; init; }

    /// <summary>So many different names of events are told apart in a visit; further ones are counted without a name (ours).</summary>
    public const int MostEventNames = 50;

    /// <summary>How often pages named which event, at most <see cref="MostEventNames"/> names; null for none. It grows along with the visit.</summary>
    public IReadOnlyDictionary<string, int>? EventNames { get; init; }

    /// <summary>What it did with which spot, by name, at most <see cref="VisitSpot.Most"/>; null for none. It grows along with the visit.</summary>
    public IReadOnlyDictionary<string, VisitSpot>? Spots { get; init; }

    /// <summary>A link inside one's own site carried tags; they were not taken, but they would have wiped out the true source.</summary>
    public bool TaggedInside { get; init; }

    /// <summary>The conversions that count, in order.</summary>
    public IReadOnlyList<RawPageEvent> Conversions { get; init; } = [];

    /// <summary>Definitions of conversions it has met; null for none. It grows along with the visit.</summary>
    internal HashSet<Guid>? Met { get; init; }

    /// <summary>Exactly one page view and no conversion.</summary>
    public bool Bounced => PageViews == 1 && Conversions.Count == 0;

    public int Seconds => (int)(EndedAt - StartedAt).TotalSeconds;
}

/// <summary>One page seen during a visit.</summary>
/// <param name="At">When, UTC.</param>
/// <param name="Page">Host and path.</param>
public readonly record struct PageView(DateTimeOffset At, string Page);

/// <summary>What a visit's browser said about itself.</summary>
/// <param name="Kind">See <see cref="Device"/>.</param>
/// <param name="Model">Its model; empty where it is not known, as are system and browser.</param>
/// <param name="System">Its operating system, without a version.</param>
/// <param name="Browser">Its browser, without a version.</param>
/// <param name="Language">The language its user prefers, as a BCP 47 primary subtag in lower case; empty where none was said.</param>
public readonly record struct VisitDevice(string Kind, string Model, string System, string Browser, string Language);
