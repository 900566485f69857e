namespace PreciseBeacon.Core.ShortLinks;

/// <summary>A short link of another shortener, as a line of its list says it.</summary>
/// <param name="Slug">Lower case; ours ignore case.</param>
/// <param name="Problem">Why it can't be taken over; null when it can.</param>
public sealed record SlugImportCell(string Slug, string? Problem)
{
    /// <summary>Reads a cell with a slug, or with a whole short address, whose last part it is.</summary>
    public static SlugImportCell Read(string cell)
    {
        string text = cell.Trim();
        int scheme = text.IndexOf("://", StringComparison.Ordinal);
        string path = scheme < 0 ? text : text[(scheme + 3)..];
        path = path.Split('?', '#')[0].TrimEnd('/');
        string slug = path[(path.LastIndexOf('/') + 1)..].ToLowerInvariant();
        return scheme >= 0 && !path.Contains('/', StringComparison.Ordinal)
                ? new SlugImportCell("", $"“{text}” is a short domain without a slug.")
            : slug.Length == 0 ? new SlugImportCell("", "There is no slug in this line.")
            : new SlugImportCell(slug, SlugMaker.WhyRefused(slug));
    }
}
