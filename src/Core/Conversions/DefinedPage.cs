using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conversions;

/// <summary>The page of a conversion as somebody types it: a path on any of one's own hosts, or an address with its host.</summary>
public static class DefinedPage
{
    /// <summary>Characters at most (ours).</summary>
    public const int Longest = 500;

    /// <summary>Stars in a pattern at most (ours); more say nothing that fewer don't.</summary>
    public const int MostStars = 10;

    /// <summary>Reads what was typed.</summary>
    /// <param name="test">How it is compared; a star means anything only in a pattern.</param>
    /// <param name="typed">Such as <c>/thanks</c>, <c>shop.example/thanks</c> or <c>https://shop.example/thanks</c>.</param>
    /// <returns>A path with its slash in front, or host and path; or why it can't be.</returns>
    public static (string? Text, string? Problem) Read(ConversionTest test, string? typed)
    {
        string text = typed?.Trim() ?? "";
        if (text.Length is 0 or > Longest)
        {
            return (null, $"Give the page's path, such as /thanks, in at most {Longest} characters.");
        }

        if (text.Any(c => c is '?' or '#' || char.IsWhiteSpace(c)))
        {
            return (null, "A page is told by its path alone; leave out everything from the ? or # on, and spaces.");
        }

        int stars = text.Count(c => c == '*');
        if (test != ConversionTest.PagePattern && stars > 0)
        {
            return (null, "A star stands for anything in a pattern only; choose “page like”, or leave it out.");
        }

        if (test == ConversionTest.PagePattern && stars is 0 or > MostStars)
        {
            return (null, $"A pattern has 1 to {MostStars} stars, as in /orders/*/thanks.");
        }

        if (text[0] == '/')
        {
            return (Bare(text), null);
        }

        int scheme = text.IndexOf("://", StringComparison.Ordinal);
        string rest = scheme < 0 ? text : text[(scheme + 3)..];
        int slash = rest.IndexOf('/', StringComparison.Ordinal);
        string host = slash < 0 ? rest : rest[..slash];
        if (host.Contains('*', StringComparison.Ordinal))
        {
            return (null, "A host has no star; begin with a slash to mean any of your hosts, as in /*thanks.");
        }

        return DestinationReader.Read(host).Destination is { } destination
            ? (Bare(destination.HostAndPort + (slash < 0 ? "/" : rest[slash..])), null)
            : (null, $"“{host}” isn't a host; begin a path with a slash.");
    }

    /// <summary>A page without a slash at its end, which servers answer alike most often; a host alone keeps its.</summary>
    internal static string Bare(string page) =>
        page.Length > 1 && page[^1] == '/' && page.IndexOf('/', StringComparison.Ordinal) < page.Length - 1 ? page[..^1] : page;
}
