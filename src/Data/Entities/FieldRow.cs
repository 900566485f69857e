using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Data.Entities;

/// <summary>A field of a convention version, as stored.</summary>
public sealed class FieldRow : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid ConventionVersionId { get; set; }

    /// <summary>Place in the URL, counting from 0.</summary>
    public int Position { get; set; }

    public required string Key { get; set; }

    public required string Label { get; set; }

    public FieldMeaning Means { get; set; }

    public FieldKind Kind { get; set; }

    public Presence Presence { get; set; } = Presence.Offered;

    /// <summary>Where presence differs by channel, as JSON.</summary>
    public string PresenceIn { get; set; } = "{}";

    public DateForm DateForm { get; set; } = DateForm.Month;

    public string? Fixed { get; set; }

    /// <summary>The name pattern as JSON; null where there is none.</summary>
    public string? Pattern { get; set; }

    public LetterCase Case { get; set; }

    public SpaceRule Space { get; set; }

    public CharacterSet Characters { get; set; }

    public OutsideSet Outside { get; set; }

    public bool Transliterate { get; set; }

    public int LongestValue { get; set; } = 200;

    public bool HasWordList { get; set; }

    public bool ClosedList { get; set; }

    public bool HoldsNumbers { get; set; }

    public List<string> AlsoRead { get; set; } = [];

    public string? Hint { get; set; }

    public string? Example { get; set; }

    public List<WordRow> Words { get; set; } = [];
}
