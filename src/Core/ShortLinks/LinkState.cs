namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What a link does now.</summary>
public enum LinkState
{
    /// <summary>Its short links open their page.</summary>
    Live,

    /// <summary>Its short links open nothing until somebody resumes them.</summary>
    Paused,

    /// <summary>Its day has come, or its uses are taken.</summary>
    Ended,

    /// <summary>Its short links wait until an owner approves the host.</summary>
    Waiting,

    /// <summary>It has no short links.</summary>
    Unshortened,

    /// <summary>It is archived.</summary>
    Retired,
}

/// <summary>The state of a link: one of them holds, and the first that fits wins.</summary>
public static class LinkStates
{
    /// <summary>The state at a moment.</summary>
    /// <param name="retired">It was archived.</param>
    /// <param name="shortened">It has short links.</param>
    /// <param name="waiting">Its host is not approved yet.</param>
    /// <param name="paused">Somebody paused it.</param>
    /// <param name="endsAt">When it ends; null for never.</param>
    /// <param name="usesLeft">Uses until it ends; null where they do not end it.</param>
    /// <param name="now">The moment.</param>
    public static LinkState Of(
        bool retired,
        bool shortened,
        bool waiting,
        bool paused,
        DateTimeOffset? endsAt,
        int? usesLeft,
        DateTimeOffset now
    ) =>
        retired ? LinkState.Retired
        : !shortened ? LinkState.Unshortened
        : waiting ? LinkState.Waiting
        : endsAt <= now || usesLeft <= 0 ? LinkState.Ended
        : paused ? LinkState.Paused
        : LinkState.Live;
}
