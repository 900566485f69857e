using System.Collections.Frozen;
using F23.StringSimilarity;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>The published rule set that every link of a workspace is built and judged by.</summary>
public sealed class Convention
{
    private static readonly Damerau Distance = new();

    private readonly FrozenDictionary<string, Field> _byName;

    /// <param name="version">The version's number, counting from 1.</param>
    /// <param name="fields">The fields in the order their tags stand in the URL.</param>
    /// <param name="settings">How links are written.</param>
    /// <exception cref="ArgumentException">Two fields share a key, or a key can't stand in a URL.</exception>
    public Convention(int version, IReadOnlyList<Field> fields, LinkSettings settings)
    {
        var byName = new Dictionary<string, Field>(StringComparer.OrdinalIgnoreCase);
        foreach (var field in fields)
        {
            if (!Tag.IsKey(field.Key) || !byName.TryAdd(field.Key, field))
            {
                throw new ArgumentException($"“{field.Key}” can't be a field's key, or another field has it already.", nameof(fields));
            }
        }

        foreach (var field in fields)
        {
            byName.TryAdd(field.Label, field);
            foreach (string key in field.AlsoRead)
            {
                byName.TryAdd(key, field);
            }
        }

        Version = version;
        Fields = [.. fields.Select(f => f with { Rules = f.Rules with { Live = settings.Live } })];
        Settings = settings;
        Tags = [.. Fields.Select(f => f.ToTag(""))];
        _byName = Fields.SelectMany(f => byName.Where(n => n.Value.Key == f.Key).Select(n => (n.Key, Field: f)))
            .ToFrozenDictionary(n => n.Key, n => n.Field, StringComparer.OrdinalIgnoreCase);
    }

    public int Version { get; }

    public IReadOnlyList<Field> Fields { get; }

    public LinkSettings Settings { get; }

    /// <summary>Which kind of traffic an arrival or a link is.</summary>
    public ChannelTable Channels { get; init; } = new([]);

    /// <summary>Kinds of sites by host, before those of the open data set.</summary>
    public IReadOnlyDictionary<string, ReferrerKind> ReferrerKinds { get; init; } = new Dictionary<string, ReferrerKind>();

    /// <summary>The fields as tags without values, for reading links.</summary>
    public IReadOnlyList<Tag> Tags { get; }

    /// <summary>The field of a key, a label or an also-read key, whatever its case; null when there is none.</summary>
    public Field? Find(string name) => _byName.GetValueOrDefault(name);

    /// <summary>
    /// The field a key was probably meant to be: the same letters with another separator, or one slip away
    /// (<c>utm_soruce</c>, <c>utm-source</c>); null when none is near.
    /// </summary>
    public Field? NearestTo(string key)
    {
        string letters = Letters(key);
        return letters.Length < 4
            ? null
            : Fields.FirstOrDefault(f => Letters(f.Key) == letters)
                ?? Fields.FirstOrDefault(f => f.Key.Length >= 7 && Distance.Distance(f.Key, key.ToLowerInvariant()) <= 1);
    }

    private static string Letters(string key) => string.Concat(key.Where(char.IsLetterOrDigit)).ToLowerInvariant();
}
