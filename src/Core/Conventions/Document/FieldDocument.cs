using System.ComponentModel;
using PreciseBeacon.Core.Composing;
using YamlDotNet.Serialization;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>A field as written.</summary>
public sealed record FieldDocument
{
    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public string Key { get; init; } = "";

    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public string Label { get; init; } = "";

    public FieldMeaning Means { get; init; }

    public FieldKind Kind { get; init; }

    [DefaultValue(Presence.Offered)]
    public Presence Presence { get; init; } = Presence.Offered;

    /// <summary>Where presence differs by channel: the channel's name and the presence there.</summary>
    public IReadOnlyDictionary<string, Presence> PresenceIn { get; init; } = new Dictionary<string, Presence>();

    public ListKind List { get; init; }

    /// <summary>How a date field writes dates.</summary>
    [DefaultValue(DateForm.Month)]
    public DateForm DateForm { get; init; } = DateForm.Month;

    /// <summary>What a fixed field says.</summary>
    public string? Fixed { get; init; }

    /// <summary>How a composed field is put together.</summary>
    public PatternDocument? Pattern { get; init; }

    public LetterCase Case { get; init; }

    public SpaceRule Space { get; init; }

    [DefaultValue(CharacterSet.Anything)]
    public CharacterSet Characters { get; init; } = CharacterSet.Anything;

    public OutsideSet Outside { get; init; }

    public bool Transliterate { get; init; }

    [DefaultValue(200)]
    public int LongestValue { get; init; } = 200;

    public bool HoldsNumbers { get; init; }

    public IReadOnlyList<string> AlsoRead { get; init; } = [];

    public string? Hint { get; init; }

    public string? Example { get; init; }

    public IReadOnlyList<WordDocument> Words { get; init; } = [];

    /// <summary>How the field writes values.</summary>
    public ValueRules ToRules() => new(Case, Space, Characters, Outside, Transliterate, LongestValue);

    /// <summary>The field the rules work with.</summary>
    public Field ToField() =>
        new()
        {
            Key = Key,
            Label = Label,
            Means = Means,
            Kind = Kind,
            Presence = Presence,
            PresenceIn = PresenceIn.ToDictionary(p => p.Key, p => p.Value, StringComparer.Ordinal),
            DateForm = DateForm,
            Fixed = Kind == FieldKind.Fixed ? Fixed ?? "" : "",
            Pattern = Kind == FieldKind.Composed ? Pattern?.ToPattern() : null,
            Rules = ToRules(),
            Words =
                Kind != FieldKind.Text || List == ListKind.None
                    ? null
                    : new WordList(
                        [
                            .. Words.Select(w => new Word(
                                w.Written,
                                w.Label.Length == 0 ? w.Written : w.Label,
                                w.Aliases,
                                w.Retired,
                                w.Successor
                            )),
                        ],
                        ToRules()
                    ),
            ClosedList = List == ListKind.Closed,
            HoldsNumbers = HoldsNumbers || Kind is FieldKind.Date or FieldKind.Composed,
            AlsoRead = AlsoRead,
            Hint = Hint,
            Example = Example,
        };
}

/// <summary>A word as written.</summary>
public sealed record WordDocument
{
    public string Written { get; init; } = "";

    [DefaultValue("")]
    public string Label { get; init; } = "";

    public IReadOnlyList<string> Aliases { get; init; } = [];

    public bool Retired { get; init; }

    public string? Successor { get; init; }
}

/// <summary>A name pattern as written.</summary>
public sealed record PatternDocument
{
    /// <summary><c>_</c> or <c>-</c>.</summary>
    public string Separator { get; init; } = "_";

    public IReadOnlyList<NamePart> Parts { get; init; } = [];

    public NamePattern ToPattern() => new(Separator.Length > 0 ? Separator[0] : '_', Parts);
}
