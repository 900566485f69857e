using System.ComponentModel;
using PreciseBeacon.Core.Composing;
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

/// <summary>
/// How a composed field is put together. One separator joins the parts and can't occur inside them, so that a name can
/// always be taken apart again.
/// </summary>
/// <param name="Separator"><c>_</c> or <c>-</c>.</param>
/// <param name="Parts">The parts in order, at least one.</param>
public sealed record NamePattern(char Separator, IReadOnlyList<NamePart> Parts)
{
    /// <summary>What stands for a space inside a part.</summary>
    public char Inside => Separator == '_' ? '-' : '_';
}
