using System.Security.Cryptography;
using System.Text;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Finds the link behind a visit by its exact tags. A field whose value holds a placeholder is open: the platform fills
/// it in, so any value fits.
/// </summary>
public static class LinkKey
{
    /// <summary>Open fields a link may have and still be found by its tags.</summary>
    public const int MostOpen = 2;

    private const char Between = '\u001f';
    private const char After = '\u001e';
    private const string Open = "\u001d";

    /// <summary>The key of a link's values.</summary>
    /// <param name="values">Written values by field key; empty ones count as not there.</param>
    /// <param name="live">Shapes of placeholders that are live.</param>
    public static Guid Of(IReadOnlyDictionary<string, string> values, PlaceholderShapes live) =>
        Hash(Ordered(values).Select(v => (v.Key, HoldsPlaceholder(v.Value, live) ? Open : v.Value)));

    /// <summary>The keys of links that a visit with these values may have come by: the exact one, then those with one and two open fields.</summary>
    public static IReadOnlyList<Guid> Candidates(IReadOnlyDictionary<string, string> values)
    {
        var fixedValues = Ordered(values).ToArray();
        if (fixedValues.Length == 0)
        {
            return [];
        }

        var keys = new List<Guid> { Hash(fixedValues.Select(v => (v.Key, v.Value))) };
        for (int one = 0; one < fixedValues.Length; one++)
        {
            keys.Add(WithOpen(fixedValues, one, one));
        }

        for (int one = 0; one < fixedValues.Length; one++)
        {
            for (int other = one + 1; other < fixedValues.Length; other++)
            {
                keys.Add(WithOpen(fixedValues, one, other));
            }
        }

        return keys;
    }

    private static Guid WithOpen(KeyValuePair<string, string>[] values, int one, int other) =>
        Hash(values.Select((v, i) => (v.Key, i == one || i == other ? Open : v.Value)));

    private static IOrderedEnumerable<KeyValuePair<string, string>> Ordered(IReadOnlyDictionary<string, string> values) =>
        values.Where(v => v.Value.Length > 0).OrderBy(v => v.Key, StringComparer.Ordinal);

    private static bool HoldsPlaceholder(string value, PlaceholderShapes live) =>
        value.Contains("@{click.", StringComparison.Ordinal) || Placeholders.Split(value, live).Any(a => a.IsPlaceholder);

    private static Guid Hash(IEnumerable<(string Key, string Value)> values)
    {
        var text = new StringBuilder();
        foreach (var (key, value) in values)
        {
            text.Append(key).Append(Between).Append(value).Append(After);
        }

        return new Guid(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())).AsSpan(0, 16), bigEndian: true);
    }
}
