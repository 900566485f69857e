namespace PreciseBeacon.Core.Links;

/// <summary>One parameter a link is tagged with.</summary>
/// <param name="Key">1–64 of <c>A–Z a–z 0–9 - . _ ~</c>.</param>
/// <param name="Value">The written value; empty when the field has none, so that an old tag of that key is recognised all the same.</param>
/// <param name="AlsoRead">Other keys that count as this field when they are already there.</param>
public sealed record Tag(string Key, string Value, IReadOnlyList<string> AlsoRead)
{
    public const int LongestKey = 64;

    public Tag(string key, string value)
        : this(key, value, []) { }

    /// <summary>True for a key that may stand in a link as it is (RFC 3986, section 2.3).</summary>
    public static bool IsKey(string key) =>
        key.Length is > 0 and <= LongestKey && key.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '.' or '_' or '~');

    /// <summary>True when a decoded key names this tag; case doesn't matter.</summary>
    public bool IsNamed(string key) =>
        Key.Equals(key, StringComparison.OrdinalIgnoreCase)
        || (AlsoRead.Count > 0 && AlsoRead.Contains(key, StringComparer.OrdinalIgnoreCase));
}
