using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>What a link is called where nobody says.</summary>
public static class LinkTitle
{
    /// <summary>Characters of a link's own words in its title.</summary>
    private const int LongestOwn = 60;

    /// <summary>Campaign, placement and page, and what was given for this link alone: links of one placement to one page are told apart by it.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="page">The accepted destination.</param>
    /// <param name="campaign">Name of the campaign, or null.</param>
    /// <param name="placement">Name of the placement, or null.</param>
    /// <param name="typed">Values as given, by key or label.</param>
    public static string Default(
        Convention convention,
        Destination page,
        string? campaign,
        string? placement,
        IReadOnlyDictionary<string, string> typed
    )
    {
        string path = page.Path.Trim('/');
        string?[] telling = [convention.KeyOf(FieldMeaning.Content), convention.KeyOf(FieldMeaning.Term)];
        string? own = typed
            .Where(f => convention.Find(f.Key) is { } field && telling.Contains(field.Key))
            .Select(f => f.Value.Trim())
            .FirstOrDefault(v => v.Length is > 0 and <= LongestOwn);
        return string.Join(
            " · ",
            new[] { campaign, placement, path.Length == 0 ? page.HostAndPort : path, own }.Where(p => !string.IsNullOrEmpty(p))
        );
    }
}
