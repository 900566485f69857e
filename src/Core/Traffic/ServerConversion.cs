namespace PreciseBeacon.Core.Traffic;

/// <summary>A conversion that a server reported, read and accepted, but not yet placed in a visitor's time.</summary>
/// <param name="EventId">The server's own id of the report; the same again changes nothing.</param>
/// <param name="SiteId">The site it belongs to.</param>
/// <param name="Kind">Kind of the conversion.</param>
/// <param name="OrderId">The shop's order id; null where there is none.</param>
/// <param name="Value">Its value; null for none.</param>
/// <param name="Currency">ISO 4217; null for no value.</param>
/// <param name="Items">What was bought, as a JSON array; null where nothing was said.</param>
/// <param name="At">When it happened, UTC.</param>
/// <param name="ClickId">The click it names (<see cref="Traffic.ClickId"/>); null for none.</param>
/// <param name="Visitor">The visitor it names, hashed as the site's pages have it hashed; null for none.</param>
public sealed record ServerConversion(
    string EventId,
    Guid SiteId,
    string Kind,
    string? OrderId,
    decimal? Value,
    string? Currency,
    string? Items,
    DateTimeOffset At,
    Guid? ClickId,
    Guid? Visitor
)
{
    /// <summary>So long before a conversion its click, or its visitor's last page, may lie.</summary>
    public static readonly TimeSpan LongestAfter = Traffic.ClickId.UsefulFor;

    /// <summary>A server's clock may be so far from ours (ours).</summary>
    public static readonly TimeSpan ClockSkew = TimeSpan.FromMinutes(5);

    /// <summary>
    /// The event in the place where it belongs: with the visit its click began; else with the last page its visitor saw on the site; else
    /// alone, at its own moment.
    /// </summary>
    /// <param name="id">The event's id.</param>
    /// <param name="workspaceId">Whose it is.</param>
    /// <param name="place">Where its click or visitor was; null where neither is known.</param>
    public RawPageEvent Placed(Guid id, Guid workspaceId, ServerPlace? place) =>
        new()
        {
            Id = id,
            WorkspaceId = workspaceId,
            SiteId = SiteId,
            At = place?.At ?? At,
            HappenedAt = place is null || place.At == At ? null : At,
            Kind = PageEventKind.Conversion,
            Url = place?.Url ?? "",
            Visitor = place?.Visitor ?? Visitor ?? id,
            DayVisitor = place?.DayVisitor,
            HasId = place?.HasId ?? Visitor is not null,
            Name = Kind,
            OrderId = OrderId,
            Value = Value,
            Currency = Currency,
            Items = Items,
            Verified = true,
            Placed = place is not null || Visitor is not null,
        };
}

/// <summary>Where a server's conversion belongs in a visitor's time.</summary>
/// <param name="Visitor">The visitor.</param>
/// <param name="At">A moment of the visit.</param>
/// <param name="HasId">The visitor is known by an id of the site's own.</param>
/// <param name="Url">The address its click led to, in case no page of the visit was measured; empty where a page was.</param>
/// <param name="DayVisitor">The hash its click is kept under, where that is another than the visitor's.</param>
public sealed record ServerPlace(Guid Visitor, DateTimeOffset At, bool HasId, string Url = "", Guid? DayVisitor = null);
