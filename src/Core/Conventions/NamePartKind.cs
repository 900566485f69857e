namespace PreciseBeacon.Core.Conventions;

/// <summary>What a part of a name pattern says.</summary>
public enum NamePartKind
{
    /// <summary>Another field's value.</summary>
    Field,

    /// <summary>The campaign's first day, or today for a campaign without one.</summary>
    Date,

    /// <summary>Always the same text.</summary>
    Literal,

    /// <summary>The campaign's own name.</summary>
    Campaign,

    /// <summary>An attribute of the campaign.</summary>
    Attribute,

    /// <summary>The channel of the placement, or the one that claims source and medium.</summary>
    Channel,
}
