namespace PreciseBeacon.Core.Traffic;

/// <summary>One report from a page, kept as it came.</summary>
public sealed record RawPageEvent
{
    /// <summary>Made before the event is kept.</summary>
    public required Guid Id { get; init; }

    public required Guid WorkspaceId { get; init; }

    public required Guid SiteId { get; init; }

    /// <summary>When it came, UTC.</summary>
    public required DateTimeOffset At { get; init; }

    public required PageEventKind Kind { get; init; }

    /// <summary>The page's whole address, tags and all.</summary>
    public required string Url { get; init; }

    /// <summary>The page's referrer; empty when there was none.</summary>
    public string Referrer { get; init; } = "";

    /// <summary>Keyed hash of the visitor: of the site's own id where it keeps one, else of address and user agent under today's salt.</summary>
    public required Guid Visitor { get; init; }

    /// <summary>The hash under yesterday's salt, in the first 30 minutes of a day.</summary>
    public Guid? EarlierVisitor { get; init; }

    /// <summary>
    /// The hash of address and user agent under today's salt beside the site's own id, so that the click that led here
    /// can be found; null where <see cref="Visitor"/> is that hash.
    /// </summary>
    public Guid? DayVisitor { get; init; }

    /// <summary>True when the visitor hash comes from the site's own id and so holds over days.</summary>
    public bool HasId { get; init; }

    public string UserAgent { get; init; } = "";

    /// <summary>ISO 3166-1 alpha-2 in capitals, worked out before the address is forgotten; empty where it is not known.</summary>
    public string Country { get; init; } = "";

    /// <summary>The largest part of the country; empty where no file says so.</summary>
    public string Region { get; init; } = "";

    /// <summary>The town; empty where no file says so.</summary>
    public string City { get; init; } = "";

    /// <summary>The language the browser's user prefers; see <see cref="BrowserLanguage"/>.</summary>
    public string Language { get; init; } = "";

    /// <summary>Name of the event or kind of the conversion; empty for page views.</summary>
    public string Name { get; init; } = "";

    /// <summary>The shop's order id; a conversion counts once for each.</summary>
    public string? OrderId { get; init; }

    /// <summary>The conversion's value in its currency.</summary>
    public decimal? Value { get; init; }

    /// <summary>ISO 4217 code, or null when the event has no value.</summary>
    public string? Currency { get; init; }

    /// <summary>The items bought, as a JSON array; null when none were reported.</summary>
    public string? Items { get; init; }

    /// <summary>True for a conversion the shop's server sent with a key; a page's own report can be forged by whoever reads the page.</summary>
    public bool Verified { get; init; }

    /// <summary>False for a server's conversion that names neither a click nor a visitor that is known.</summary>
    public bool Placed { get; init; } = true;

    /// <summary>
    /// When a server's conversion happened; its <see cref="At"/> is where it stands in its visitor's time, which may be days earlier. Null
    /// where that is the same.
    /// </summary>
    public DateTimeOffset? HappenedAt { get; init; }

    /// <summary>True for a view read from an access log, false for what the page itself or a server reported.</summary>
    public bool FromLog { get; init; }

    /// <summary>It is about a spot of the page.</summary>
    public bool IsOfSpot => Kind is PageEventKind.SpotSeen or PageEventKind.SpotClicked;
}

/// <summary>What a page reported.</summary>
public enum PageEventKind : byte
{
    View,
    Event,
    Conversion,

    /// <summary>A spot of the page was seen: half of it in view for a second.</summary>
    SpotSeen,

    /// <summary>A spot of the page was clicked.</summary>
    SpotClicked,
}
