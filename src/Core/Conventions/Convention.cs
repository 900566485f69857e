using System.Collections.Frozen;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>The published rule set that every link of a workspace is built and judged by.</summary>
public sealed class Convention
{
    private readonly FrozenDictionary<string, Field> _byName;
    private readonly FrozenDictionary<string, int> _places;
    private readonly string[] _keys;
    private readonly int[] _byMeaning = new int[Enum.GetValues<FieldMeaning>().Length];

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

        Array.Fill(_byMeaning, -1);
        foreach (var meaning in Enum.GetValues<FieldMeaning>().Where(m => m != FieldMeaning.ByKey))
        {
            if (fields.Count(f => f.Means == meaning) > 1)
            {
                throw new ArgumentException(
                    $"Two fields have the role {meaning.ToString().ToLowerInvariant()}; only one can be.",
                    nameof(fields)
                );
            }

            int at = IndexWhere(fields, f => f.Means == meaning);
            at = at >= 0 ? at : IndexWhere(fields, f => f.Means == FieldMeaning.ByKey && StandardKeys.MeaningOf(f.Key) == meaning);
            _byMeaning[(int)meaning] = at;
            if (at >= 0)
            {
                byName.TryAdd(StandardKeys.Of(meaning), fields[at]);
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
        _keys = [.. Fields.Select(f => f.Key)];
        Settings = settings;
        Tags = [.. Fields.Select(f => f.ToTag(""))];
        _byName = Fields
            .SelectMany(f => byName.Where(n => n.Value.Key == f.Key).Select(n => (n.Key, Field: f)))
            .ToFrozenDictionary(n => n.Key, n => n.Field, StringComparer.OrdinalIgnoreCase);
        _places = _byName.ToFrozenDictionary(
            n => n.Key,
            n => IndexWhere(Fields, f => f.Key == n.Value.Key),
            StringComparer.OrdinalIgnoreCase
        );
    }

    public int Version { get; }

    public IReadOnlyList<Field> Fields { get; }

    public LinkSettings Settings { get; }

    /// <summary>Which kind of traffic an arrival or a link is.</summary>
    public ChannelTable Channels { get; init; } = new([]);

    /// <summary>Kinds of sites by host, before those of the open data set.</summary>
    public IReadOnlyDictionary<string, ReferrerKind> ReferrerKinds { get; init; } = new Dictionary<string, ReferrerKind>();

    /// <summary>Which words go together.</summary>
    public IReadOnlyList<Choice> Choices { get; init; } = [];

    /// <summary>Severities the owner has set, by the rule's name.</summary>
    public IReadOnlyDictionary<string, Severity> Severities { get; init; } = new Dictionary<string, Severity>();

    /// <summary>Systems that read the links, with the keys they understand.</summary>
    public IReadOnlyList<ReadingSystem> ReadBy { get; init; } = [];

    /// <summary>The fields as tags without values, for reading links.</summary>
    public IReadOnlyList<Tag> Tags { get; }

    /// <summary>The field of a key, a label or an also-read key, whatever its case; null when there is none.</summary>
    public Field? Find(string name) => _byName.GetValueOrDefault(name);

    /// <summary>The place of the field of a key, an also-read key or a label; -1 when there is none.</summary>
    public int PlaceOf(string name) => _places.GetValueOrDefault(name, -1);

    /// <summary>The place of the field with a meaning; -1 when there is none.</summary>
    public int IndexOf(FieldMeaning meaning) => _byMeaning[(int)meaning];

    /// <summary>The key of the field with a meaning; null when there is none.</summary>
    public string? KeyOf(FieldMeaning meaning) => IndexOf(meaning) is var at and >= 0 ? Fields[at].Key : null;

    /// <summary>What a field means; <see cref="FieldMeaning.ByKey"/> for one of the workspace's own.</summary>
    public FieldMeaning MeaningOf(Field field) =>
        Enum.GetValues<FieldMeaning>().FirstOrDefault(m => m != FieldMeaning.ByKey && KeyOf(m) == field.Key);

    /// <summary>
    /// The field a key was probably meant to be: the same letters with another separator, or one slip away
    /// (<c>utm_soruce</c>, <c>utm-source</c>); null when none is near.
    /// </summary>
    public Field? NearestTo(string key) => NearKey.Of(key, _keys) is { } near ? Fields.First(f => f.Key == near) : null;

    /// <summary>The field whose key, or near misspelling of it, this is. A field's label is no key; null when there is none.</summary>
    public Field? KeyMeant(string key) =>
        Find(key) is { } known && !known.Label.Equals(key, StringComparison.OrdinalIgnoreCase) ? known : NearestTo(key);

    private static int IndexWhere(IReadOnlyList<Field> fields, Func<Field, bool> wanted)
    {
        for (int i = 0; i < fields.Count; i++)
        {
            if (wanted(fields[i]))
            {
                return i;
            }
        }

        return -1;
    }
}

/// <summary>Which words of one field go with a word of another, so that choosing one narrows the other.</summary>
/// <param name="Field">Key of the field chosen first.</param>
/// <param name="Word">Its written word.</param>
/// <param name="Narrows">Key of the field that is narrowed.</param>
/// <param name="To">The written words that go with it, at least one.</param>
public sealed record Choice(string Field, string Word, string Narrows, IReadOnlyList<string> To);

/// <summary>A system that reads the tags of arriving visits, and the keys it understands.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Keys">The keys it understands, whatever their case; it passes over all others.</param>
public sealed record ReadingSystem(string Name, IReadOnlyList<string> Keys);
