namespace PreciseBeacon.Core.Proofs.Strays;

/// <summary>
/// What somebody decided a stray means. It is applied when traffic is read, so the past follows it, and taking it back restores what the
/// reports said before; raw tags are never touched.
/// </summary>
/// <param name="Id">Its id.</param>
/// <param name="Key">The misspelt key that is read as <paramref name="Field"/>, in lower case; null where values are assigned.</param>
/// <param name="Field">Key of the field a key is read as; null where values are assigned.</param>
/// <param name="When">The values that must all be there as they arrive, by the key of a field or of a parameter nobody reads; empty where a key is assigned.</param>
/// <param name="Then">The values that are read instead, by field key; empty where a key is assigned.</param>
public sealed record StrayAssignment(
    Guid Id,
    string? Key,
    string? Field,
    IReadOnlyDictionary<string, string> When,
    IReadOnlyDictionary<string, string> Then
)
{
    private static readonly Dictionary<string, string> Nothing = [];

    /// <summary>A key that is read as a field.</summary>
    public static StrayAssignment OfKey(Guid id, string key, string field) => new(id, key.ToLowerInvariant(), field, Nothing, Nothing);

    /// <summary>Values that are read as others.</summary>
    public static StrayAssignment OfValues(Guid id, IReadOnlyDictionary<string, string> when, IReadOnlyDictionary<string, string> then) =>
        new(id, null, null, when, then);

    /// <summary>Equal for assignments of the same stray: only one of them can hold.</summary>
    public string Stray =>
        Key is not null
            ? $"key\n{Key}"
            : "values\n" + string.Join('\n', When.OrderBy(w => w.Key, StringComparer.Ordinal).Select(w => $"{w.Key}\n{w.Value}"));
}
