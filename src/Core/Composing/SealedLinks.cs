using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>Reads sealed links: the one place that knows where their code stands.</summary>
public static class SealedLinks
{
    /// <summary>The convention's tags and, where the workspace seals links, the one with the code.</summary>
    public static IReadOnlyList<Tag> TagsOf(Convention convention) =>
        convention.Settings.SealedKey is { } key ? [.. convention.Tags, new Tag(key, "")] : convention.Tags;

    /// <summary>The code in a URL; null when there is none.</summary>
    public static string? CodeIn(string url, Convention convention) =>
        convention.Settings.SealedKey is { } key && DestinationReader.Read(url).Destination is { } destination
            ? LinkReader.Read(destination, [new Tag(key, "")]).Values.GetValueOrDefault(key)
            : null;

    /// <summary>Values with those behind the code in place of it; tags that stand in the open go first.</summary>
    internal static IReadOnlyDictionary<string, string> Unseal(
        Convention convention,
        IReadOnlyDictionary<string, string> read,
        LinkFacts facts,
        out string? unknownCode
    )
    {
        unknownCode = null;
        if (convention.Settings.SealedKey is not { } key || !read.TryGetValue(key, out string? code))
        {
            return read;
        }

        var values = read.Where(v => v.Key != key).ToDictionary();
        if (!facts.Sealed.TryGetValue(code, out var behind))
        {
            unknownCode = code;
            return values;
        }

        foreach (var (name, value) in behind)
        {
            if (convention.Find(name) is { } field)
            {
                values.TryAdd(field.Key, value);
            }
        }

        return values;
    }

    /// <summary>A sealed link stays sealed when it is written anew.</summary>
    internal static TagStyle? StyleOf(Convention convention, IReadOnlyDictionary<string, string> read) =>
        convention.Settings.SealedKey is { } key && read.ContainsKey(key) ? TagStyle.Sealed : null;
}
