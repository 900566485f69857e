using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// The tag-like parameters of a landing address as they stood there. What they mean is read later, through the convention of the
/// day of reading, so that the past follows it.
/// </summary>
public sealed class RawTags : IEquatable<RawTags>
{
    /// <summary>At most so many bytes of keys and values are kept (UTF-8); a parameter that no longer fits is cut, and what follows is left out.</summary>
    public const int MostBytes = 2_048;

    /// <summary>No tags.</summary>
    public static readonly RawTags None = new([]);

    // Written by us and read by us; nothing of it reaches a page unescaped.
    private static readonly JsonSerializerOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    // Tens of thousands are made at once, each read a few times: looking up may not cost much to prepare.
    private readonly Dictionary<string, string> _values;
    private string? _json;

    private RawTags(SortedDictionary<string, string> values) => _values = new Dictionary<string, string>(values, StringComparer.Ordinal);

    /// <summary>Values by key; keys in lower case, no value empty.</summary>
    public IReadOnlyDictionary<string, string> Values => _values;

    /// <summary>The same as a JSON object, keys in ordinal order; equal tags have equal texts.</summary>
    public string Json => _json ??= JsonSerializer.Serialize(new SortedDictionary<string, string>(_values, StringComparer.Ordinal), Plain);

    /// <summary>True where any tag was there.</summary>
    public bool Any => _values.Count > 0;

    /// <summary>
    /// Reads them off a page's address, in its query and in its fragment; of a key that stands twice the first counts. A parameter whose
    /// value swallowed tags after a second question mark is kept too.
    /// </summary>
    /// <param name="page">The page, tags and all.</param>
    /// <param name="isTagLike">Tells which decoded keys are kept.</param>
    public static RawTags Of(Destination page, Func<string, bool> isTagLike)
    {
        var values = new SortedDictionary<string, string>(StringComparer.Ordinal);
        int left = MostBytes;
        foreach (var pair in RawPair.Split(page.Query).Concat(RawPair.Split(FragmentPairs.Of(page.Fragment).Pairs)))
        {
            if (
                pair.Raw.Length == 0
                || pair.Key is not { Length: > 0 } written
                || (!isTagLike(written) && !SwallowsTags(pair.Value, isTagLike))
            )
            {
                continue;
            }

            string key = Readable(Fitting(written, left)).ToLowerInvariant();
            string value = Readable(Fitting(pair.Value, left - Encoding.UTF8.GetByteCount(key)));
            if (value.Length > 0 && values.TryAdd(key, value))
            {
                left -= Encoding.UTF8.GetByteCount(key) + Encoding.UTF8.GetByteCount(value);
            }
        }

        return values.Count == 0 ? None : new RawTags(values);
    }

    /// <summary>Tags of values by key, as they come from elsewhere than an address; empty values are left out.</summary>
    public static RawTags Of(IEnumerable<KeyValuePair<string, string>> values)
    {
        var kept = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var (key, value) in values)
        {
            if (value.Length > 0)
            {
                kept.TryAdd(key.ToLowerInvariant(), value);
            }
        }

        return kept.Count == 0 ? None : new RawTags(kept);
    }

    /// <summary>Reads what <see cref="Json"/> wrote.</summary>
    public static RawTags Parse(string json) =>
        json == None.Json ? None : Of(JsonSerializer.Deserialize<Dictionary<string, string>>(json) ?? []);

    /// <summary>The value of each tag that is there, by the tag's own key; its own key goes before those also read, in their order.</summary>
    /// <param name="tags">The tags of a convention.</param>
    public Dictionary<string, string> Read(IReadOnlyList<Tag> tags)
    {
        var read = new Dictionary<string, string>(StringComparer.Ordinal);
        if (_values.Count > 0)
        {
            foreach (var tag in tags)
            {
                if (ValueOf(tag) is { } value)
                {
                    read[tag.Key] = value;
                }
            }
        }

        return read;
    }

    /// <summary>The value of one tag; null where it is not there.</summary>
    public string? ValueOf(Tag tag)
    {
        if (_values.TryGetValue(tag.Key.ToLowerInvariant(), out string? value))
        {
            return value;
        }

        foreach (string key in tag.AlsoRead)
        {
            if (_values.TryGetValue(key.ToLowerInvariant(), out value))
            {
                return value;
            }
        }

        return null;
    }

    /// <summary>What a code stands for in place of the code; a tag that is there in the open goes before it.</summary>
    /// <param name="codeKey">The key the code stands under.</param>
    /// <param name="behind">Values by field key.</param>
    public RawTags Unsealed(string codeKey, IReadOnlyDictionary<string, string> behind) =>
        Of(_values.Where(v => !v.Key.Equals(codeKey, StringComparison.OrdinalIgnoreCase)).Concat(behind));

    /// <summary>The same with some values replaced, and some tags left out.</summary>
    /// <param name="valueOf">The new value by key and value; null leaves the tag out.</param>
    public RawTags With(Func<string, string, string?> valueOf) =>
        Of(_values.Select(v => KeyValuePair.Create(v.Key, valueOf(v.Key, v.Value) ?? "")));

    public static bool operator ==(RawTags? one, RawTags? other) => Equals(one, other);

    public static bool operator !=(RawTags? one, RawTags? other) => !Equals(one, other);

    public bool Equals(RawTags? other) => other?.Json == Json;

    public override bool Equals(object? obj) => Equals(obj as RawTags);

    public override int GetHashCode() => Json.GetHashCode(StringComparison.Ordinal);

    /// <summary>
    /// True where a value holds tags behind a question mark, as when somebody began them with one although the address had one already.
    /// They are kept where they stand, so that they can be found. What reads as an address keeps its tags to itself.
    /// </summary>
    private static bool SwallowsTags(string value, Func<string, bool> isTagLike) =>
        value.IndexOf('?', StringComparison.Ordinal) is var at and >= 0
        && !value.AsSpan(0, at).Contains('/')
        && value.IndexOf('=', at) is var end and > 0
        && end > at + 1
        && isTagLike(value[(at + 1)..end]);

    /// <summary>As much of a text as fits into so many bytes, never half a character.</summary>
    private static string Fitting(string text, int bytes)
    {
        if (text.Length * 3 <= bytes || Encoding.UTF8.GetByteCount(text) <= bytes)
        {
            return text;
        }

        int used = 0;
        int length = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            used += rune.Utf8SequenceLength;
            if (used > bytes)
            {
                break;
            }

            length += rune.Utf16SequenceLength;
        }

        return text[..length];
    }

    /// <summary>A decoded value can hold anything (<c>%00</c>, half a pair); what nobody could type or store shows as U+FFFD.</summary>
    private static string Readable(string text) =>
        text.Any(c => char.IsControl(c) || char.IsSurrogate(c))
            ? string.Concat(text.EnumerateRunes().Select(r => Rune.IsControl(r) ? "\uFFFD" : r.ToString()))
            : text;
}
