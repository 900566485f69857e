namespace PreciseBeacon.Web.Ledger;

/// <summary>A line of another shortener's list.</summary>
/// <param name="Slug">The slug, or the whole short address.</param>
/// <param name="Page">Where it leads, tags and all.</param>
/// <param name="Title">What it is called, or null.</param>
public sealed record SlugRow(string? Slug, string? Page, string? Title = null);

/// <summary>Lines to be taken over.</summary>
/// <param name="Rows">The lines, 1 to 10,000.</param>
/// <param name="Printed">The slugs stand on paper as codes, so their hits are scans.</param>
public sealed record SlugsToBring(IReadOnlyList<SlugRow>? Rows, bool Printed = false);

/// <summary>What comes of a line.</summary>
/// <param name="Outcome"><c>ready</c>, <c>waits</c> (for an owner), <c>clash</c> or <c>refused</c>.</param>
/// <param name="Says">Why, or what to look at; null where there is nothing to say.</param>
public sealed record SlugRowAnswer(string Slug, string Page, string? Title, string Outcome, string? Says)
{
    public const string Ready = "ready";
    public const string Waits = "waits";
    public const string Clash = "clash";
    public const string Refused = "refused";
}

/// <summary>What comes of a list.</summary>
/// <param name="Rows">Line by line.</param>
/// <param name="Takes">How many can be taken over.</param>
/// <param name="Brought">How many were; 0 while it is only looked at.</param>
public sealed record SlugImportAnswer(IReadOnlyList<SlugRowAnswer> Rows, int Takes, int Brought);
