using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>One visit as reports show it.</summary>
/// <param name="Id">Its id.</param>
/// <param name="StartedAt">Its first event, UTC.</param>
/// <param name="EndedAt">Its last event, UTC.</param>
/// <param name="Source">What it came from, read through the convention of today.</param>
/// <param name="LandingPage">Host and path.</param>
/// <param name="LastPage">Host and path.</param>
/// <param name="Country">ISO 3166-1 alpha-2; empty where it is not known, as are region and town.</param>
/// <param name="Region">The largest part of the country.</param>
/// <param name="Town">The town.</param>
/// <param name="Device">The kind of device.</param>
/// <param name="Model">The device's model; empty where it is not known, as are system and browser.</param>
/// <param name="System">The operating system, without its version.</param>
/// <param name="Browser">The browser, without its version.</param>
/// <param name="Language">The browser's language; empty where it is not known.</param>
/// <param name="PageViews">Pages seen.</param>
/// <param name="Events">Events pages named.</param>
/// <param name="Conversions">Conversions that count.</param>
/// <param name="Bounced">Exactly one page view and no conversion.</param>
/// <param name="HasId">Its visitor is known by an id of the site's own.</param>
/// <param name="HitId">The hit it came from; null where none is known.</param>
public sealed record VisitRow(
    Guid Id,
    DateTimeOffset StartedAt,
    DateTimeOffset EndedAt,
    ReadSource Source,
    string LandingPage,
    string LastPage,
    string Country,
    string Region,
    string Town,
    string Device,
    string Model,
    string System,
    string Browser,
    string Language,
    int PageViews,
    int Events,
    int Conversions,
    bool Bounced,
    bool HasId,
    Guid? HitId
);

/// <summary>One thing that happened during a visit.</summary>
/// <param name="At">When, UTC.</param>
/// <param name="Kind"><c>page</c>, <c>event</c> or <c>conversion</c>.</param>
/// <param name="Name">The page, or the name of the event or conversion.</param>
/// <param name="OrderId">The order; null for all but conversions.</param>
/// <param name="Value">What it was worth; null where it had no value.</param>
/// <param name="Currency">ISO 4217; null where it had no value.</param>
public sealed record VisitStep(DateTimeOffset At, string Kind, string Name, string? OrderId, decimal? Value, string? Currency);
