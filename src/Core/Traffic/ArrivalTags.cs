namespace PreciseBeacon.Core.Traffic;

/// <summary>The raw tag values a visit arrived with; null where the tag was not there.</summary>
public sealed record ArrivalTags(
    string? Source, string? Medium, string? Campaign, string? Term, string? Content, string? TagId)
{
    public static readonly ArrivalTags None = new(null, null, null, null, null, null);

    public bool Any => this != None;
}
