using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>One parameter of a convention.</summary>
public sealed record Field
{
    /// <summary>The parameter's key in the URL.</summary>
    public required string Key { get; init; }

    /// <summary>What people call it.</summary>
    public required string Label { get; init; }

    /// <summary>What it says about a link; <see cref="FieldMeaning.ByKey"/> goes by its key.</summary>
    public FieldMeaning Means { get; init; }

    /// <summary>Where its value comes from.</summary>
    public FieldKind Kind { get; init; }

    /// <summary>Whether a link must have it.</summary>
    public Presence Presence { get; init; } = Presence.Offered;

    /// <summary>Whether a link of a channel must have it, where that differs; by the channel's name.</summary>
    public IReadOnlyDictionary<string, Presence> PresenceIn { get; init; } = new Dictionary<string, Presence>();

    /// <summary>How a date field writes dates.</summary>
    public DateForm DateForm { get; init; } = DateForm.Month;

    /// <summary>How a composed field is put together; null for the other kinds.</summary>
    public NamePattern? Pattern { get; init; }

    /// <summary>The value of a fixed field, in its written form; empty for the other kinds.</summary>
    public string Fixed { get; init; } = "";

    /// <summary>How its values are written.</summary>
    public ValueRules Rules { get; init; } = new();

    /// <summary>Its allowed words, or null for free text.</summary>
    public WordList? Words { get; init; }

    /// <summary>Refuses words outside its list; an open list only notices them.</summary>
    public bool ClosedList { get; init; }

    /// <summary>Made for ids, dates or numbers, so long numbers are not taken for somebody's.</summary>
    public bool HoldsNumbers { get; init; }

    /// <summary>Other keys it is also read from.</summary>
    public IReadOnlyList<string> AlsoRead { get; init; } = [];

    /// <summary>One sentence shown at the moment of entry.</summary>
    public string? Hint { get; init; }

    /// <summary>An example value.</summary>
    public string? Example { get; init; }

    /// <summary>Whether a link of a channel must have it.</summary>
    /// <param name="channel">The channel's name, or null when no channel is known.</param>
    public Presence PresenceFor(string? channel) =>
        channel is not null && PresenceIn.Count > 0 && PresenceIn.TryGetValue(channel, out var presence) ? presence : Presence;

    /// <summary>The field as a tag with a written value.</summary>
    public Tag ToTag(string written) => new(Key, written, AlsoRead);
}

/// <summary>Where a field's value comes from.</summary>
public enum FieldKind
{
    /// <summary>Typed, or chosen from its words.</summary>
    Text,

    /// <summary>A day, written in the field's form.</summary>
    Date,

    /// <summary>Put together by its name pattern.</summary>
    Composed,

    /// <summary>Always the same.</summary>
    Fixed,
}

/// <summary>What a field says about a link, whatever its key; the rules and the reports go by it.</summary>
public enum FieldMeaning
{
    /// <summary>What the standard parameter of the field's key means, or a meaning of the workspace's own.</summary>
    ByKey,

    Source,
    Medium,
    Campaign,
    Content,
    Term,
    Id,
}

/// <summary>Whether a link has a field.</summary>
public enum Presence
{
    Required,
    Offered,
    Hidden,
}

/// <summary>How a field's values are chosen.</summary>
public enum ListKind
{
    /// <summary>Free text.</summary>
    None,

    /// <summary>Words that are offered; others are noticed.</summary>
    Open,

    /// <summary>Words, and nothing else.</summary>
    Closed,
}
