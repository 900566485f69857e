namespace PreciseBeacon.Core.Conventions;

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
