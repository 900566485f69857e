namespace PreciseBeacon.Core.Conventions;

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
