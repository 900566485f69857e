namespace PreciseBeacon.Core.Proofs.Strays;

/// <summary>What is wrong with a stray.</summary>
public enum StrayKind
{
    /// <summary>A value that neither the field's words nor the plan know.</summary>
    UnknownValue,

    /// <summary>Source and medium have changed places.</summary>
    Swapped,

    /// <summary>A key that no field is read from.</summary>
    MisspeltKey,

    /// <summary>The value swallowed the tags after a second question mark.</summary>
    SecondQuestionMark,

    /// <summary>A known value in another case or with other separators.</summary>
    WrittenOtherwise,
}

/// <summary>A tag, or a pair of tags, that the convention does not know as it arrived.</summary>
/// <param name="Key">The key where nobody reads it, in lower case; else null.</param>
/// <param name="When">The values as they arrived, by field key; empty for a key.</param>
/// <param name="Then">What it probably means, by field key; empty where nothing is likely, and for a key.</param>
/// <param name="Sources">Ids of the traffic sources that say so, rising.</param>
public sealed record Stray(
    string? Key,
    IReadOnlyDictionary<string, string> When,
    IReadOnlyDictionary<string, string> Then,
    IReadOnlyList<int> Sources
)
{
    /// <summary>As it arrived, for people.</summary>
    public string Shown => Key ?? string.Join(" / ", When.Values);

    /// <summary>As an assignment to what it probably means.</summary>
    /// <param name="id">The assignment's id.</param>
    /// <param name="field">Key of the field a key is read as.</param>
    public StrayAssignment AsLikely(Guid id, string? field) =>
        Key is not null && field is not null ? StrayAssignment.OfKey(id, Key, field) : StrayAssignment.OfValues(id, When, Then);
}

/// <summary>Strays that probably mean the same.</summary>
/// <param name="Kind">What is wrong.</param>
/// <param name="Field">Key of the field they belong to, or are probably read as; null for a swapped pair and where no field is near.</param>
/// <param name="Likely">What they probably mean, as text; null where nothing is near.</param>
/// <param name="IsSettled">The reports count them right already; only their links are worth mending.</param>
/// <param name="Strays">At least one, those of the most visits first.</param>
/// <param name="Visits">Visits of all of them.</param>
public sealed record StrayGroup(StrayKind Kind, string? Field, string? Likely, bool IsSettled, IReadOnlyList<Stray> Strays, long Visits);
