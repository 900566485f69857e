using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Puts the tags a link was made with on another page: what was decided once is not judged again.</summary>
public static class LinkRetagger
{
    /// <summary>The page with the link's tags.</summary>
    /// <param name="convention">The convention that holds; it gives the order. Values of fields it no longer has come last.</param>
    /// <param name="page">The page.</param>
    /// <param name="values">The link's written values by key.</param>
    /// <param name="style">How the link was written.</param>
    public static TaggedUrl Retag(Convention convention, Destination page, IReadOnlyDictionary<string, string> values, TagStyle style)
    {
        var settings = convention.Settings with { Style = style, Existing = ExistingTags.Replace };
        bool seals = style == TagStyle.Sealed;
        var tags = convention.Fields.Select(f => f.ToTag(seals ? "" : values.GetValueOrDefault(f.Key, "")))
            .Concat(values.Where(v => convention.Fields.All(f => f.Key != v.Key)).OrderBy(v => v.Key, StringComparer.Ordinal).Select(v => new Tag(v.Key, seals ? "" : v.Value, [])))
            .ToList();
        if (settings.SealedKey is { } key)
        {
            tags.Add(new Tag(key, seals ? SealedCode.Of(values, settings) : ""));
        }

        return LinkComposer.Compose(page, tags, settings);
    }
}
