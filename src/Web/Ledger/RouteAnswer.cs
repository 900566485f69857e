using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Where a link's short links lead.</summary>
/// <param name="LeadsTo">The page, as typed and without tags.</param>
/// <param name="Url">The address they redirect to, tags and all.</param>
/// <param name="State">What they do now.</param>
/// <param name="EndsAt">When they end; null for never.</param>
/// <param name="EndsAtLocal">The same as it is written where the workspace is, such as <c>2026-12-24T18:00</c>.</param>
/// <param name="Fallback">Where they lead after their end; null for nowhere.</param>
/// <param name="MostUses">They end after so many clicks and scans; null where those do not end them.</param>
/// <param name="UsesLeft">Clicks and scans that are left of them.</param>
/// <param name="Turns">Other pages at some times or for one kind of device; the first that holds wins.</param>
/// <param name="Permanent">Answered with 301, which browsers remember: later clicks are not counted, later changes not seen.</param>
/// <param name="WithoutTags">They lead to the page without the link's tags.</param>
/// <param name="Carries">What they do with parameters behind them.</param>
/// <param name="ClickIds">Each click gets an id, filled in as <c>@{click.id}</c>, by which a conversion that a server reports finds it.</param>
/// <param name="TimeZone">IANA name of the workspace's zone.</param>
/// <param name="Revision">To be sent along when something is changed.</param>
/// <param name="History">Every change, newest first.</param>
public sealed record RouteAnswer(
    string LeadsTo,
    string Url,
    LinkState State,
    bool Paused,
    DateTimeOffset? EndsAt,
    string? EndsAtLocal,
    string? Fallback,
    int? MostUses,
    int? UsesLeft,
    IReadOnlyList<RedirectRuleText> Turns,
    bool Permanent,
    bool WithoutTags,
    CarriedParameters Carries,
    bool ClickIds,
    string TimeZone,
    int Revision,
    IReadOnlyList<RouteEntry> History
);

/// <summary>One change: who made it, when, and where the short links led before and after.</summary>
public sealed record RouteEntry(DateTimeOffset At, string Who, RouteSettings Before, RouteSettings After);

/// <summary>Where short links lead, as history keeps it.</summary>
public sealed record RouteSettings(
    string LeadsTo,
    bool Paused,
    DateTimeOffset? EndsAt,
    string? Fallback,
    int? MostUses = null,
    IReadOnlyList<RedirectRuleText>? Turns = null,
    bool Permanent = false,
    bool WithoutTags = false,
    CarriedParameters Carries = CarriedParameters.Nothing,
    bool ClickIds = false
);

/// <summary>Another page for some times or one kind of device.</summary>
/// <param name="LeadsTo">The page; it gets the link's own tags.</param>
/// <param name="From">ISO 8601 with an offset, or a local date and time in the workspace's zone; null or empty from the beginning.</param>
/// <param name="Until">Likewise; null or empty for good.</param>
/// <param name="Device"><c>phone</c>, <c>tablet</c> or <c>computer</c>; null or empty for any.</param>
public sealed record RedirectRuleText(string? LeadsTo, string? From, string? Until, string? Device);

/// <summary>A change of where short links lead. What is left out is as usual.</summary>
/// <param name="LeadsTo">The page; it gets the link's own tags.</param>
/// <param name="EndsAt">ISO 8601 with an offset, or a local date and time in the workspace's zone; null or empty for never.</param>
/// <param name="Fallback">Where they lead after their end, as it stands; null or empty for nowhere.</param>
/// <param name="MostUses">They end after so many clicks and scans, counted from when this was first set; null where those do not end them.</param>
/// <param name="Turns">Other pages, the first that holds wins.</param>
/// <param name="Permanent">Answer with 301.</param>
/// <param name="WithoutTags">Lead to the page without the link's tags.</param>
/// <param name="Carries">What they do with parameters behind them.</param>
/// <param name="ClickIds">Give each click an id, filled in as <c>@{click.id}</c>.</param>
public sealed record RouteChange(
    string? LeadsTo,
    bool Paused,
    string? EndsAt,
    string? Fallback,
    int Revision,
    int? MostUses = null,
    IReadOnlyList<RedirectRuleText>? Turns = null,
    bool Permanent = false,
    bool WithoutTags = false,
    CarriedParameters Carries = CarriedParameters.Nothing,
    bool ClickIds = false
);
