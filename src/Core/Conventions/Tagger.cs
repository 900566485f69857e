using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Puts written fields on a destination, readable or sealed.</summary>
internal static class Tagger
{
    public static TaggedUrl Tag(Convention convention, Destination destination, IReadOnlyList<ComposedField> fields, LinkSettings settings)
    {
        var tags = new List<Tag>(fields.Count + 1);
        bool seals = settings.Style == TagStyle.Sealed;
        for (int i = 0; i < fields.Count; i++)
        {
            tags.Add(convention.Fields[i].ToTag(seals ? "" : Sendable(fields[i].Value)));
        }

        if (settings.SealedKey is { } key)
        {
            // An old code goes when the link is tagged anew, in whichever style.
            tags.Add(new Tag(key, seals ? SealedCode.Of(fields.ToDictionary(f => f.Key, f => f.Value), settings) : ""));
        }

        return LinkComposer.Compose(destination, tags, settings);
    }

    /// <summary>A value with half a character stops the link, but its URL is still shown, with the replacement character.</summary>
    private static string Sendable(string value)
    {
        foreach (char c in value)
        {
            if (char.IsSurrogate(c))
            {
                return string.Concat(value.EnumerateRunes().Select(r => r.ToString()));
            }
        }

        return value;
    }
}
