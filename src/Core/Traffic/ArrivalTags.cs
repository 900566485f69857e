namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// The raw tag values a visit arrived with; null where the tag was not there. <c>Own</c> holds the convention's other
/// fields as a JSON object, keys in ordinal order.
/// </summary>
public sealed record ArrivalTags(
    string? Source,
    string? Medium,
    string? Campaign,
    string? Term,
    string? Content,
    string? TagId,
    string? Own = null
)
{
    public static readonly ArrivalTags None = new(null, null, null, null, null, null);

    public bool Any => this != None;

    /// <summary>
    /// Keys of the links these tags may belong to, the likeliest first: see <see cref="LinkKey.Candidates"/>.
    /// Follows from the values, so it takes no part in comparing.
    /// </summary>
    public IReadOnlyList<Guid> LinkKeys { get; init; } = [];

    public bool Equals(ArrivalTags? other) =>
        other is not null
        && Source == other.Source
        && Medium == other.Medium
        && Campaign == other.Campaign
        && Term == other.Term
        && Content == other.Content
        && TagId == other.TagId
        && Own == other.Own;

    public override int GetHashCode() => HashCode.Combine(Source, Medium, Campaign, Term, Content, TagId, Own);
}
