namespace PreciseBeacon.Core.Traffic;

/// <summary>One request for a short link, kept as it came.</summary>
/// <param name="Id">Made before the hit is kept.</param>
/// <param name="WorkspaceId">The workspace whose short link it is.</param>
/// <param name="At">When it came, UTC.</param>
/// <param name="ShortLinkId">The short link asked for.</param>
/// <param name="Visitor">Keyed hash of the visitor under today's salt.</param>
/// <param name="EarlierVisitor">The hash under yesterday's salt, in the first 30 minutes of a day.</param>
/// <param name="Flags">What the request said about itself.</param>
/// <param name="UserAgent">Shortened user agent; empty when none was sent.</param>
/// <param name="Referrer">Shortened referrer; empty when none was sent.</param>
/// <param name="Country">ISO 3166-1 alpha-2 in capitals, worked out before the address is forgotten; empty where it is not known.</param>
/// <param name="Region">The largest part of the country; empty where no file says so.</param>
/// <param name="City">The town; empty where no file says so.</param>
/// <param name="Typed">What was typed behind the short link: its query without the “?”; empty for nothing.</param>
/// <param name="ClickId">The id it was sent on with (<see cref="Traffic.ClickId"/>); null for most.</param>
/// <param name="PageKey">The page its answer led to; see <see cref="Traffic.PageKey"/>.</param>
public sealed record RawHit(
    Guid Id,
    Guid WorkspaceId,
    DateTimeOffset At,
    Guid ShortLinkId,
    Guid Visitor,
    Guid? EarlierVisitor,
    HitFlags Flags,
    string UserAgent,
    string Referrer,
    string Country = "",
    string Region = "",
    string City = "",
    long PageKey = Traffic.PageKey.Unknown,
    string Typed = "",
    Guid? ClickId = null
)
{
    /// <summary>Most characters of <see cref="Typed"/> that are kept.</summary>
    public const int LongestTyped = 1_000;

    /// <summary>The query of a request as it is kept: without its “?”, cut, and without what looks like personal data.</summary>
    public static string TypedOf(string query) =>
        query.Length <= 1 ? "" : PrivateAddress.Of(query.Length <= LongestTyped ? query : query[..LongestTyped])[1..];
}

/// <summary>What a request for a short link said about itself.</summary>
[Flags]
public enum HitFlags : byte
{
    None = 0,

    /// <summary>The method was HEAD.</summary>
    Head = 1,

    /// <summary>A <c>Purpose</c> or <c>Sec-Purpose</c> header said prefetch.</summary>
    Prefetch = 2,
}
