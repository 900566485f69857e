using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Web.Ledger;

/// <summary>A line of another shortener's list.</summary>
/// <param name="Slug">The slug, or the whole short address.</param>
/// <param name="Page">Where it leads, tags and all.</param>
/// <param name="Title">What it is called, or null.</param>
public sealed record SlugImportRequestRow(string? Slug, string? Page, string? Title = null);

/// <summary>Lines to be taken over.</summary>
/// <param name="Rows">The lines, 1 to 10,000.</param>
/// <param name="Printed">The slugs stand on paper as codes, so their hits are scans.</param>
/// <param name="Domain">Id or host of the short domain they stand on; the first where it is left out.</param>
public sealed record SlugImportRequest(IReadOnlyList<SlugImportRequestRow>? Rows, bool Printed = false, string? Domain = null);

/// <summary>The result of a line.</summary>
/// <param name="Says">Why, or what to look at; null where there is nothing to say.</param>
public sealed record SlugImportRowAnswer(string Slug, string Page, string? Title, SlugImportOutcome Outcome, string? Says);

/// <summary>The result of a list.</summary>
/// <param name="Rows">Line by line.</param>
/// <param name="Takes">How many can be taken over.</param>
/// <param name="Imported">How many were; 0 while it is only looked at.</param>
public sealed record SlugImportAnswer(IReadOnlyList<SlugImportRowAnswer> Rows, int Takes, int Imported);
