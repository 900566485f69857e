using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>A line of another shortener's list, judged.</summary>
/// <param name="Slug">Its slug, lower case; the cell as it stands where there is none in it.</param>
/// <param name="Outcome">Whether it is imported.</param>
/// <param name="Says">Why, or what to look at; null where there is nothing to say.</param>
/// <param name="Page">Where it leads; null where that is no web address.</param>
public sealed record SlugImportRow(string Slug, SlugImportOutcome Outcome, string? Says, Destination? Page);
