namespace PreciseBeacon.Core.Conventions;

/// <summary>Where a field's value came from; an earlier one goes before a later.</summary>
public enum ValueOrigin
{
    /// <summary>Somebody typed it, or a call handed it over.</summary>
    Typed,

    /// <summary>A standing value of the placement.</summary>
    Placement,

    /// <summary>The campaign's own name.</summary>
    Campaign,

    /// <summary>Put together by the field's name pattern.</summary>
    Composed,

    /// <summary>The field always says so.</summary>
    Fixed,

    /// <summary>The day the link is made.</summary>
    Today,

    /// <summary>The address had it already and it was kept.</summary>
    Address,

    /// <summary>Nothing gave it a value.</summary>
    None,
}
