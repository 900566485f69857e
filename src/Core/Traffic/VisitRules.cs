using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Traffic;

/// <summary>What a workspace's visits are worked out with.</summary>
/// <param name="OwnHosts">All hosts of the workspace's sites, as in <see cref="Destination.HostAndPort"/>.</param>
/// <param name="Tags">The tags of the convention, by which the link behind a visit is found.</param>
/// <param name="Zone">The workspace's time zone.</param>
public sealed record VisitRules(IReadOnlySet<string> OwnHosts, IReadOnlyList<Tag> Tags, TimeZoneInfo Zone)
{
    /// <summary>Which parameters are kept raw; of every version of the convention where those are known.</summary>
    public TagVocabulary Vocabulary { get; init; } = TagVocabulary.Of(Tags);

    /// <summary>The parameter the code of sealed links stands in; null where none are sealed.</summary>
    public string? SealedKey { get; init; }

    /// <summary>Values of sealed links by their code, for the codes among the events.</summary>
    public IReadOnlyDictionary<string, IReadOnlyDictionary<string, string>> Sealed { get; init; } =
        new Dictionary<string, IReadOnlyDictionary<string, string>>();

    /// <summary>
    /// The workspace's short domains. Their plain pages (where a link leads, that it has ended) are its own, so a referrer there
    /// is no outside one; the tags behind them still say where the visitor came from.
    /// </summary>
    public IReadOnlySet<string> ShortHosts { get; init; } = new HashSet<string>();

    /// <summary>
    /// Hosts people pass through, such as payment and sign-in pages, without a port: coming back from one, or from one below it, begins
    /// no visit, not even with tags.
    /// </summary>
    public IReadOnlySet<string> PassingHosts { get; init; } = new HashSet<string>();

    /// <summary>The pages and events that count as conversions.</summary>
    public ConversionDefinitions Conversions { get; init; } = ConversionDefinitions.None;

    /// <summary>The first day whose raw events are complete; nothing is worked out for days before it. Null where all of them are.</summary>
    public DateOnly? RawFrom { get; init; }

    /// <summary>A visit ends after this long without an event (common practice).</summary>
    public static readonly TimeSpan Gap = TimeSpan.FromMinutes(30);

    /// <summary>The hour of a moment in the workspace's zone, 0 to 23.</summary>
    public int HourOf(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, Zone).Hour;

    /// <summary>The day of a moment in the workspace's zone.</summary>
    public DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, Zone).DateTime);
}
