namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What keeps a short link from simply redirecting (ours).</summary>
/// <param name="Paused">It leads nowhere until somebody takes it up again.</param>
/// <param name="EndsAt">When it ends; null for never.</param>
/// <param name="Fallback">Where it leads after its end, ASCII; null for nowhere.</param>
public sealed record RouteConditions(bool Paused, DateTimeOffset? EndsAt, string? Fallback)
{
    /// <summary>What the link does at a moment, and where it leads then. An end goes before a pause: whoever set a fallback wants it reached.</summary>
    /// <param name="target">Where it leads before its end, ASCII.</param>
    /// <param name="now">The moment.</param>
    /// <returns>The outcome; the address is null unless it redirects.</returns>
    public (RouteOutcome Outcome, string? Address) At(string target, DateTimeOffset now) =>
        EndsAt <= now ? Fallback is null ? (RouteOutcome.Ended, null) : (RouteOutcome.Redirects, Fallback)
        : Paused ? (RouteOutcome.Rests, null)
        : (RouteOutcome.Redirects, target);

    /// <summary>The conditions; null for a link that simply redirects.</summary>
    public static RouteConditions? Of(bool paused, DateTimeOffset? endsAt, string? fallback) => paused || endsAt is not null ? new RouteConditions(paused, endsAt, fallback) : null;
}
