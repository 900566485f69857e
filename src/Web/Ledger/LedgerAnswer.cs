using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>One page of the Ledger, in the order asked for.</summary>
/// <param name="Total">How many there are, counted up to 10,000.</param>
/// <param name="AndMore">True when there are more than were counted.</param>
public sealed record LedgerAnswer(
    IReadOnlyList<LedgerRow> Links,
    int Total,
    bool AndMore,
    int Page,
    int PageSize,
    IReadOnlyList<HostAnswer> WaitingHosts
);

/// <summary>A link with what came of it.</summary>
/// <param name="Publisher">Who runs the placement, or null.</param>
/// <param name="Channel">The placement's channel, or null.</param>
/// <param name="State">What it does now.</param>
/// <param name="CopyUrl">What is to be placed: the short link, with parameters behind it where a platform fills them in; the long link where nobody would.</param>
/// <param name="Carries">What its short links do with parameters behind them.</param>
/// <param name="Clicks">People's clicks on the short link for texts, without double taps.</param>
/// <param name="Scans">People's hits on the short link in the code, without double taps.</param>
/// <param name="Unique">Distinct daily visitors behind both, added up over days.</param>
/// <param name="Others">Hits that were no person's click: crawlers, prefetches, header requests, double taps.</param>
/// <param name="Cost">What it cost so far by its rate or else its placement's, its share of fixed costs, and what was imported for it alone; null where that is nothing.</param>
/// <param name="Topics">Words of the workspace's own to find it by.</param>
/// <param name="Notices">What the convention that holds now says about the link's values, notes left out.</param>
/// <param name="Visits">Visits that arrived with the link's exact tags since it was made, by the short link or without it.</param>
public sealed record LedgerRow(
    Guid Id,
    string? Title,
    string Url,
    IReadOnlyList<StripSegment> Strip,
    IReadOnlyList<LinkValue> Values,
    string Destination,
    Guid? CampaignId,
    string? Campaign,
    Guid? PlacementId,
    string? Placement,
    string? Publisher,
    string? Channel,
    LinkState State,
    string? ShortUrl,
    string? CodeShortUrl,
    string CopyUrl,
    CarriedParameters Carries,
    bool Waiting,
    long Clicks,
    long Scans,
    long Unique,
    long Others,
    DateTimeOffset? LastUsedAt,
    Money? Cost,
    long Visits,
    long Visitors,
    decimal? BounceRate,
    long Conversions,
    decimal? ConversionRate,
    Money Revenue,
    IReadOnlyList<string> Topics,
    IReadOnlyList<Notice> Notices,
    string CreatedBy,
    DateTimeOffset CreatedAt
);

/// <summary>A value the link was made with.</summary>
public sealed record LinkValue(string Key, string Label, string Value);

/// <summary>A foreign host somebody wants links to lead to.</summary>
public sealed record HostAnswer(Guid Id, string Host, bool Approved, string AskedBy, DateTimeOffset AskedAt);
