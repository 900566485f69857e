using System.ComponentModel;
using YamlDotNet.Serialization;

namespace PreciseBeacon.Core.Conventions;

/// <summary>One part of a name pattern.</summary>
public sealed record NamePart
{
    [YamlMember(DefaultValuesHandling = DefaultValuesHandling.Preserve)]
    public NamePartKind Kind { get; init; }

    /// <summary>Key of the field, name of the attribute, or the literal's text; empty for the others.</summary>
    [DefaultValue("")]
    public string Of { get; init; } = "";

    /// <summary>How a date is written.</summary>
    [DefaultValue(DateForm.Month)]
    public DateForm Form { get; init; } = DateForm.Month;

    /// <summary>Stands in place of the part when it is missing; null for a part that must be there.</summary>
    public string? Filler { get; init; }
}
