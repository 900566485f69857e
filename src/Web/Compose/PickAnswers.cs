using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Web.Compose;

/// <summary>A field as the interface offers it.</summary>
public sealed record FieldAnswer(
    string Key,
    string Label,
    FieldMeaning Means,
    FieldKind Kind,
    Presence Presence,
    bool ClosedList,
    string? Hint,
    string? Example,
    IReadOnlyList<WordAnswer> Words
)
{
    public static FieldAnswer Of(Convention convention, Field field) =>
        new(
            field.Key,
            field.Label,
            convention.MeaningOf(field),
            field.Kind,
            field.Presence,
            field.ClosedList,
            field.Hint,
            field.Example,
            [.. (field.Words?.Words ?? []).Where(w => !w.Retired).Select(w => new WordAnswer(w.Written, w.Label))]
        );
}

/// <summary>A word that may be picked.</summary>
public sealed record WordAnswer(string Written, string Label);
