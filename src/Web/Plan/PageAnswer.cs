using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Plan;

/// <summary>A page known by its title.</summary>
public sealed record PageAnswer(Guid Id, string Address, string? Title, string Site, DateTimeOffset SeenAt);

/// <summary>Pages found, and how many the workspace knows in all.</summary>
public sealed record PagesAnswer(IReadOnlyList<PageAnswer> Pages, int Total, IReadOnlyList<SiteAnswer> Sites);

/// <summary>A site pages can be read from.</summary>
public sealed record SiteAnswer(Guid Id, string Name, string Host, int Pages);

/// <summary>A pasted list: one page a line, its address and, after a tab or a space, its title.</summary>
public sealed record PasteRequest(string? Text);

/// <summary>What came of reading pages.</summary>
/// <param name="Found">Pages named by the list or the sitemap.</param>
/// <param name="Added">Of those, new ones.</param>
/// <param name="Titled">Titles read or given.</param>
/// <param name="Problems">What could not be taken in, each in one sentence; at most the first fifty.</param>
public sealed record PagesRead(int Found, int Added, int Titled, IReadOnlyList<string> Problems);
