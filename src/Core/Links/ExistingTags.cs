namespace PreciseBeacon.Core.Links;

/// <summary>What to do with tags that an address already has.</summary>
public enum ExistingTags
{
    /// <summary>Each is replaced in place of its first occurrence; leftovers are dropped.</summary>
    Replace,

    /// <summary>They stay; only missing fields are added.</summary>
    Keep,

    /// <summary>A link with tags already there is not made.</summary>
    Refuse,
}
