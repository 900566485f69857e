namespace PreciseBeacon.Core.Reports;

/// <summary>What a <see cref="NamedMeasure"/> counts.</summary>
public enum NamedThing
{
    /// <summary>Conversions of one kind.</summary>
    Conversions,

    /// <summary>Events pages gave one name.</summary>
    Events,
}

/// <summary>
/// A figure whose name comes from the pages or the owner: how many conversions of one kind, or events of one name. Written
/// <c>conversions:ticket</c> or <c>events:map opened</c>; a comma in a name is <c>%2C</c> there, and a per cent sign <c>%25</c>, since
/// commas stand between figures.
/// </summary>
/// <param name="Of">What is counted.</param>
/// <param name="Name">The kind or name, as pages send it.</param>
public sealed record NamedMeasure(NamedThing Of, string Name)
{
    /// <summary>How many a report counts at most (ours).</summary>
    public const int Most = 20;

    private const string OfConversions = "conversions:";
    private const string OfEvents = "events:";

    /// <summary>Reads one; null for any other measure.</summary>
    public static NamedMeasure? Parse(string measure) =>
        NameAfter(OfConversions, measure) is { } kind ? new(NamedThing.Conversions, kind)
        : NameAfter(OfEvents, measure) is { } name ? new(NamedThing.Events, name)
        : null;

    /// <summary>As calls and addresses write it.</summary>
    public override string ToString() =>
        (Of == NamedThing.Conversions ? OfConversions : OfEvents)
        + Name.Replace("%", "%25", StringComparison.Ordinal).Replace(",", "%2C", StringComparison.Ordinal);

    private static string? NameAfter(string prefix, string measure) =>
        measure.Length > prefix.Length && measure.StartsWith(prefix, StringComparison.OrdinalIgnoreCase)
            ? measure[prefix.Length..].Replace("%2C", ",", StringComparison.OrdinalIgnoreCase).Replace("%25", "%", StringComparison.Ordinal)
            : null;
}
