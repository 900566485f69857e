using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>One parameter of a convention.</summary>
public sealed record Field
{
    /// <summary>The parameter's key in the URL.</summary>
    public required string Key { get; init; }

    /// <summary>What people call it.</summary>
    public required string Label { get; init; }

    /// <summary>Whether a link must have it.</summary>
    public Presence Presence { get; init; } = Presence.Offered;

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

    /// <summary>The field as a tag with a written value.</summary>
    public Tag ToTag(string written) => new(Key, written, AlsoRead);
}
