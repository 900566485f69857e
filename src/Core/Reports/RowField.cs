namespace PreciseBeacon.Core.Reports;

/// <summary>What rows of Arrivals can be made by, and what they can be narrowed by.</summary>
public enum RowKind
{
    Channel,

    /// <summary>The group its channel is gathered in.</summary>
    Group,

    /// <summary>By its written value; see <see cref="PlanOfVisits"/>.</summary>
    Campaign,

    /// <summary>An attribute of the campaign, by its name.</summary>
    Attribute,

    Placement,

    /// <summary>A set its placement is in; the first by name where it is in several.</summary>
    Set,

    /// <summary>The publisher of the placement.</summary>
    Publisher,

    /// <summary>The link a visit came by, by its id.</summary>
    Link,

    Source,
    Medium,

    /// <summary>Source and medium together.</summary>
    SourceMedium,

    Content,
    Term,
    Id,

    /// <summary>A field of the convention, by its key.</summary>
    Field,

    /// <summary>A part of a composed field, by field key and part, as in <c>utm_campaign.2</c>.</summary>
    Part,

    /// <summary>What was typed behind the short link a visit came by.</summary>
    Typed,

    Referrer,
    Site,
    LandingPage,
    LastPage,
    Country,
    Region,
    Town,
    Device,
    Model,
    System,
    Browser,
    Language,

    /// <summary><c>new</c> or <c>returning</c>, where visitors are known by an id; see <see cref="VisitorKinds"/>.</summary>
    VisitorKind,

    Hour,

    /// <summary>ISO 8601: 1 is Monday.</summary>
    Weekday,

    Day,

    /// <summary>Its first day, a Monday (ISO 8601).</summary>
    Week,

    /// <summary>Its first day.</summary>
    Month,
}

/// <summary>One thing to make rows by.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Name">Which attribute, field or part; empty for the others.</param>
/// <param name="IsFirst">It is about the first visit known of the visitor; only for what stands with the source of a visit.</param>
public sealed record RowField(RowKind Kind, string Name = "", bool IsFirst = false)
{
    private const string First = "first.";

    /// <summary>Names as calls have them, those with a name of their own ending in a dot and capitals.</summary>
    public static IReadOnlyList<string> AllNames { get; } =
    [
        .. Enum.GetValues<RowKind>().Select(NameOf),
        .. Enum.GetValues<RowKind>().Where(k => new RowField(k).Table == RowTable.Source).Select(k => First + NameOf(k)),
    ];

    /// <summary>Where it stands: with the source of a visit, or with one of the visit's own keys.</summary>
    public RowTable Table =>
        Kind switch
        {
            RowKind.LandingPage => RowTable.LandingPage,
            RowKind.LastPage => RowTable.LastPage,
            RowKind.Country or RowKind.Region or RowKind.Town => RowTable.Place,
            RowKind.Device or RowKind.Model or RowKind.System or RowKind.Browser or RowKind.Language => RowTable.Device,
            RowKind.VisitorKind => RowTable.Visitor,
            RowKind.Hour => RowTable.Hour,
            RowKind.Weekday or RowKind.Day or RowKind.Week or RowKind.Month => RowTable.Day,
            _ => IsFirst ? RowTable.FirstSource : RowTable.Source,
        };

    /// <summary>
    /// True where a click on a short link has a value too: what its link says and leads to, the device, the day. Where it came from and
    /// what followed is only known of visits.
    /// </summary>
    public bool IsOfClicks =>
        Table switch
        {
            RowTable.Source => Kind is not (RowKind.Referrer or RowKind.Site or RowKind.Typed),
            RowTable.LandingPage or RowTable.Day => true,
            RowTable.Device => Kind == RowKind.Device,
            _ => false,
        };

    /// <summary>Reads a name such as <c>landingPage</c> or <c>attribute.region</c>, whatever its case; null where nothing is called so.</summary>
    public static RowField? Parse(string text)
    {
        if (text.StartsWith(First, StringComparison.OrdinalIgnoreCase))
        {
            return Parse(text[First.Length..]) is { Table: RowTable.Source } field ? field with { IsFirst = true } : null;
        }

        int dot = text.IndexOf('.', StringComparison.Ordinal);
        string kind = dot < 0 ? text : text[..dot];
        string name = dot < 0 ? "" : text[(dot + 1)..];
        return
            kind.Length > 0
            && kind.All(char.IsAsciiLetter)
            && Enum.TryParse<RowKind>(kind, ignoreCase: true, out var found)
            && TakesName(found) == (name.Length > 0)
            ? new RowField(found, name)
            : null;
    }

    public override string ToString() => (IsFirst ? First : "") + (Name.Length == 0 ? CamelOf(Kind) : $"{CamelOf(Kind)}.{Name}");

    private static string NameOf(RowKind kind) => TakesName(kind) ? $"{CamelOf(kind)}.NAME" : CamelOf(kind);

    private static bool TakesName(RowKind kind) => kind is RowKind.Attribute or RowKind.Field or RowKind.Part;

    private static string CamelOf(RowKind kind) => char.ToLowerInvariant(kind.ToString()[0]) + kind.ToString()[1..];
}

/// <summary>Where a visit's value of a field is found.</summary>
public enum RowTable
{
    Source,
    LandingPage,
    LastPage,
    Place,
    Device,
    Visitor,
    Hour,
    Day,

    /// <summary>The source of the first visit known of a visitor with an id; 0 for those without.</summary>
    FirstSource,
}

/// <summary>Whether a visit is its visitor's first, which is only known of those with an id.</summary>
public static class VisitorKinds
{
    /// <summary>The visitor has no id.</summary>
    public const int Unknown = 0;

    /// <summary>It is the first visit known.</summary>
    public const int New = 1;

    /// <summary>There was one before.</summary>
    public const int Returning = 2;

    /// <summary>What a row of it is called; null where it is not known.</summary>
    public static string? NameOf(int kind) =>
        kind switch
        {
            New => "new",
            Returning => "returning",
            _ => null,
        };

    /// <summary>The kind of a visit.</summary>
    public static int Of(bool hasId, bool isNew) =>
        !hasId ? Unknown
        : isNew ? New
        : Returning;
}
