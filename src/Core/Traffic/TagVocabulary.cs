using System.Collections.Frozen;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Tells which parameters of a landing address are tag-like and so are kept raw with a visit: the keys of every version of the
/// convention, those also read, everything of the <c>utm</c> family, and near misspellings of the keys.
/// </summary>
public sealed class TagVocabulary
{
    private const string Family = "utm";

    private readonly FrozenSet<string> _keys;
    private readonly List<string> _ordered;

    /// <param name="keys">Keys of fields and keys that are also read, of every version; case doesn't matter.</param>
    public TagVocabulary(IEnumerable<string> keys)
    {
        _ordered = [.. keys.Distinct(StringComparer.OrdinalIgnoreCase)];
        _keys = _ordered.ToFrozenSet(StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>The keys of some tags, those also read among them.</summary>
    public static TagVocabulary Of(IEnumerable<Tag> tags) => new(tags.SelectMany(t => t.AlsoRead.Prepend(t.Key)));

    /// <summary>Those of some keys that are not tag-like yet, so that past visits did not keep them; each once, whatever its case.</summary>
    public IReadOnlyList<string> NewAmong(IEnumerable<string> keys) =>
        [.. keys.Where(k => k.Length > 0 && !IsTagLike(k)).Distinct(StringComparer.OrdinalIgnoreCase)];

    /// <summary>True for a decoded key that may say where a visitor came from.</summary>
    public bool IsTagLike(string key) =>
        _keys.Contains(key) || key.StartsWith(Family, StringComparison.OrdinalIgnoreCase) || NearKey.Of(key, _ordered) is not null;
}
