using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What keeps a short link from simply redirecting (ours).</summary>
/// <param name="Paused">It leads nowhere until somebody takes it up again.</param>
/// <param name="EndsAt">When it ends; null for never.</param>
/// <param name="Fallback">Where it leads after its end, ASCII; null for nowhere.</param>
/// <param name="UsesLeft">Uses until it ends, as they were when last heard of; null where uses do not end it.</param>
/// <param name="Turns">Other pages, the first that holds wins; null for none.</param>
/// <param name="Permanent">Answered with 301 in place of 302.</param>
/// <param name="Carries">What the short link does with parameters behind it.</param>
/// <param name="FillsIn">Its address has something to fill in at the click.</param>
/// <param name="HeardAt">When it was heard that <paramref name="UsesLeft"/> are left.</param>
/// <param name="ClickIds">Each click gets an id of its own, where the address has a place for it.</param>
public sealed record RouteConditions(
    bool Paused,
    DateTimeOffset? EndsAt,
    string? Fallback,
    int? UsesLeft = null,
    IReadOnlyList<RedirectRule>? Turns = null,
    bool Permanent = false,
    CarriedParameters Carries = CarriedParameters.Nothing,
    bool FillsIn = false,
    DateTimeOffset HeardAt = default,
    bool ClickIds = false
)
{
    /// <summary>A double tap on the last use comes within this time after that was heard of: the tap's own two seconds, and as long for the news.</summary>
    private static readonly TimeSpan LastTapWithin = 2 * HitClassifier.DoubleTapWithin;

    /// <summary>Whether the last use was taken so lately that a hit may be its double tap, which sees what the tap before it saw.</summary>
    public bool MayBeLastTap(DateTimeOffset now) => UsesLeft <= 0 && now - HeardAt <= LastTapWithin;

    /// <summary>Whether the kind of device has to be known.</summary>
    public bool AsksDevice => FillsIn || Turns?.Any(t => t.Device is not null) == true;

    /// <summary>What the link does at a moment, and where it leads then. An end goes before a pause: whoever set a fallback wants it reached.</summary>
    /// <param name="target">Where it leads before its end, ASCII.</param>
    /// <param name="now">The moment.</param>
    /// <param name="device">The visitor's kind of device; see <see cref="Traffic.Device"/>.</param>
    /// <returns>The outcome; the address is null unless it redirects.</returns>
    public (RouteOutcome Outcome, string? Address) At(string target, DateTimeOffset now, string device = Traffic.Device.Computer) =>
        EndsAt <= now || UsesLeft <= 0 ? AfterEnd() : BeforeEnd(target, now, device);

    /// <summary>What the link does as long as it has not ended.</summary>
    public (RouteOutcome Outcome, string? Address) BeforeEnd(string target, DateTimeOffset now, string device = Traffic.Device.Computer) =>
        Paused ? (RouteOutcome.Paused, null) : (RouteOutcome.Redirects, Turns?.FirstOrDefault(t => t.Holds(now, device))?.Target ?? target);

    /// <summary>What the link does once it has ended.</summary>
    public (RouteOutcome Outcome, string? Address) AfterEnd() =>
        Fallback is null ? (RouteOutcome.Ended, null) : (RouteOutcome.Redirects, Fallback);

    /// <summary>The conditions; null for a link that simply redirects.</summary>
    public static RouteConditions? Of(
        bool paused,
        DateTimeOffset? endsAt,
        string? fallback,
        int? usesLeft = null,
        IReadOnlyList<RedirectRule>? turns = null,
        bool permanent = false,
        CarriedParameters carries = CarriedParameters.Nothing,
        string? target = null,
        DateTimeOffset heardAt = default,
        bool clickIds = false
    )
    {
        bool fillsIn = (target is not null && ClickFillIns.In(target)) || turns?.Any(t => ClickFillIns.In(t.Target)) == true;
        return
            paused
            || endsAt is not null
            || usesLeft is not null
            || turns is { Count: > 0 }
            || permanent
            || carries != CarriedParameters.Nothing
            || fillsIn
            ? new RouteConditions(
                paused,
                endsAt,
                fallback,
                usesLeft,
                turns is { Count: > 0 } ? turns : null,
                permanent,
                carries,
                fillsIn,
                heardAt,
                clickIds
            )
            : null;
    }
}

/// <summary>What a short link does at a moment.</summary>
public enum RouteOutcome
{
    /// <summary>It redirects.</summary>
    Redirects,

    /// <summary>Somebody has paused it.</summary>
    Paused,

    /// <summary>It has ended, and leads nowhere any more.</summary>
    Ended,
}

/// <summary>What a short link does with parameters somebody put behind it.</summary>
public enum CarriedParameters
{
    /// <summary>They are left behind.</summary>
    Nothing,

    /// <summary>They go on to the page; one the page's address has already keeps its value there, so that tags are never overwritten.</summary>
    KeepTags,

    /// <summary>They go on to the page and take the place of what it has under the same key.</summary>
    Overwrite,
}
