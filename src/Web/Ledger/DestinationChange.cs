using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Leads links to one page, each with its own tags; nothing is stored until the caller does so.</summary>
/// <param name="Page">The page, as typed and without tags.</param>
/// <param name="Lead">Leads a link with its short links there, as part of a change of many or of none; false when it leads there already.</param>
public sealed record DestinationChange(string Page, Func<Link, IReadOnlyList<ShortLink>, Guid?, bool> Lead);
