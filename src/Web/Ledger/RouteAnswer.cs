namespace PreciseBeacon.Web.Ledger;

/// <summary>Where a link's short links lead.</summary>
/// <param name="LeadsTo">The page, as typed and without tags.</param>
/// <param name="Url">The address they redirect to, tags and all.</param>
/// <param name="State"><c>live</c>, <c>paused</c>, <c>ended</c> or <c>waiting</c>.</param>
/// <param name="EndsAt">When they end; null for never.</param>
/// <param name="EndsAtLocal">The same as it is written where the workspace is, such as <c>2026-12-24T18:00</c>.</param>
/// <param name="Fallback">Where they lead after their end; null for nowhere.</param>
/// <param name="TimeZone">IANA name of the workspace's zone.</param>
/// <param name="Revision">To be sent along when something is changed.</param>
/// <param name="History">Every change, newest first.</param>
public sealed record RouteAnswer(
    string LeadsTo, string Url, string State, bool Paused, DateTimeOffset? EndsAt, string? EndsAtLocal, string? Fallback, string TimeZone, int Revision, IReadOnlyList<RouteEntry> History);

/// <summary>One change: who made it, when, and where the short links led before and after.</summary>
public sealed record RouteEntry(DateTimeOffset At, string Who, RouteSettings Before, RouteSettings After);

/// <summary>Where short links lead, as history keeps it.</summary>
public sealed record RouteSettings(string LeadsTo, bool Paused, DateTimeOffset? EndsAt, string? Fallback);

/// <summary>A change of where short links lead.</summary>
/// <param name="LeadsTo">The page; it gets the link's own tags.</param>
/// <param name="EndsAt">ISO 8601 with an offset, or a local date and time in the workspace's zone; null or empty for never.</param>
/// <param name="Fallback">Where they lead after their end, as it stands; null or empty for nowhere.</param>
public sealed record RouteChange(string? LeadsTo, bool Paused, string? EndsAt, string? Fallback, int Revision);
