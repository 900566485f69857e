using PreciseBeacon.Core.Composing;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>
/// The two slugs of a link. The one in its QR code is never the one in texts: by its slug alone a hit is told to be a scan of a
/// printed code or a click.
/// </summary>
/// <param name="Text">The slug in texts.</param>
/// <param name="Code">The slug in the code.</param>
public sealed record LinkSlugs(string Text, string Code)
{
    /// <summary>Those that were chosen, others made up.</summary>
    /// <param name="text">Chosen for texts; null or empty where none was.</param>
    /// <param name="code">Chosen for the code; null or empty where none was.</param>
    /// <param name="makeUp">Makes up a slug that nobody has.</param>
    public static LinkSlugs Of(string? text, string? code, Func<string> makeUp)
    {
        string inTexts = Read(text) ?? Other(Read(code), makeUp);
        return new LinkSlugs(inTexts, Read(code) ?? Other(inTexts, makeUp));
    }

    /// <summary>Those that somebody chose, as they are stored; none to two.</summary>
    public static IEnumerable<string> Chosen(ComposeRequest request) =>
        new[] { Read(request.Slug), Read(request.CodeSlug) }.OfType<string>();

    /// <summary>A chosen slug as it is stored: ours ignore case. Null where none was chosen.</summary>
    public static string? Read(string? chosen) => string.IsNullOrWhiteSpace(chosen) ? null : chosen.Trim().ToLowerInvariant();

    private static string Other(string? than, Func<string> makeUp)
    {
        string slug;
        do
        {
            slug = makeUp();
        } while (slug == than);
        return slug;
    }
}
