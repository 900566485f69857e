using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>One distinct raw way in which visits arrived. It is read when a report is made, so that the past follows the convention.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Tags">The raw tags.</param>
/// <param name="ReferrerHost">Host of the outside referrer; empty when there was none.</param>
/// <param name="Printed">It came through a printed code.</param>
/// <param name="SiteId">The site the visit was on.</param>
/// <param name="LinkId">The link it came by; null where none is known.</param>
/// <param name="Typed">What was typed behind the short link; empty for nothing.</param>
public sealed record TrafficSource(
    int Id,
    RawTags Tags,
    string ReferrerHost,
    bool Printed = false,
    Guid SiteId = default,
    Guid? LinkId = null,
    string Typed = ""
)
{
    /// <summary>What a visit without tags and without a referrer is called (the trade's word).</summary>
    public const string Direct = "direct";

    /// <summary>What the medium of an untagged visit from another site is called (the trade's word).</summary>
    public const string Referral = "referral";

    /// <summary>The row a visit belongs to; null where it has no such value.</summary>
    public string? KeyOf(RowKind kind, Convention convention) =>
        new ReadSource(this, convention, PlanOfVisits.Empty).KeyOf(new RowField(kind));
}

/// <summary>A traffic source read through the convention and the plan of today.</summary>
public sealed class ReadSource
{
    private readonly Convention _convention;
    private readonly Dictionary<string, string> _values;
    private readonly PlanOfVisits _plan;
    private readonly Lazy<Channel?> _channel;
    private readonly Lazy<CampaignOfVisit?> _campaign;
    private readonly Lazy<PlacementOfVisit?> _placement;

    public ReadSource(TrafficSource source, Convention convention, PlanOfVisits plan)
        : this(source, convention, ValuesOf(source, convention, plan.Strays), plan) { }

    private ReadSource(TrafficSource source, Convention convention, Dictionary<string, string> values, PlanOfVisits plan)
    {
        Source = source;
        _convention = convention;
        _values = values;
        _plan = plan;
        _channel = new Lazy<Channel?>(FindChannel, LazyThreadSafetyMode.PublicationOnly);
        _campaign = new Lazy<CampaignOfVisit?>(
            () => _plan.CampaignOf(Source.LinkId, ValueOf(FieldMeaning.Campaign)),
            LazyThreadSafetyMode.PublicationOnly
        );
        _placement = new Lazy<PlacementOfVisit?>(() => _plan.PlacementOf(Source.LinkId, _values), LazyThreadSafetyMode.PublicationOnly);
    }

    /// <summary>The same source by another plan; what its tags say is only read again where other strays are assigned.</summary>
    public ReadSource By(PlanOfVisits plan) =>
        plan.Strays.Stamp == _plan.Strays.Stamp ? new(Source, _convention, _values, plan) : new(Source, _convention, plan);

    /// <summary>The source with what a visit brought itself, where there are too many values for sources to tell them apart.</summary>
    public ReadSource Bringing(RawTags tags, string referrerHost) =>
        new(Source with { Tags = tags, ReferrerHost = referrerHost }, _convention, _plan);

    /// <summary>What the tags of a source say by field key, with strays assigned, before words and their aliases are looked up.</summary>
    public static Dictionary<string, string> GivenBy(TrafficSource source, Convention convention, StrayAssignments strays)
    {
        var values = source.Tags.Read(convention.Tags);
        foreach (var meaning in Enum.GetValues<FieldMeaning>())
        {
            // A field that was given another key still says what it said under its usual one.
            if (
                meaning != FieldMeaning.ByKey
                && convention.KeyOf(meaning) is { } key
                && !values.ContainsKey(key)
                && convention.Find(StandardKeys.Of(meaning))?.Key == key
                && source.Tags.ValueOf(new Tag(StandardKeys.Of(meaning), "")) is { } value
            )
            {
                values[key] = value;
            }
        }

        strays.ApplyTo(values, source.Tags, convention);
        return values;
    }

    private static Dictionary<string, string> ValuesOf(TrafficSource source, Convention convention, StrayAssignments strays)
    {
        var values = GivenBy(source, convention, strays);
        foreach (var field in convention.Fields)
        {
            // An alias counts as its word; anything else is shown as it came.
            if (field.Words is { } words && values.TryGetValue(field.Key, out string? raw) && words.Find(raw) is { } word)
            {
                values[field.Key] = word.Written;
            }
        }

        return values;
    }

    public TrafficSource Source { get; }

    /// <summary>The row a visit belongs to; null where it has no such value, and for what is not of the source.</summary>
    public string? KeyOf(RowField field) =>
        field.Kind switch
        {
            RowKind.Channel => _channel.Value?.Name ?? ChannelTable.Unsorted,
            RowKind.Group => _channel.Value is { } channel ? channel.Group : ChannelTable.Unsorted,
            RowKind.Campaign => Campaign?.Value ?? ValueOf(FieldMeaning.Campaign),
            RowKind.Attribute => Campaign
                ?.Attributes.FirstOrDefault(a => a.Key.Equals(field.Name, StringComparison.OrdinalIgnoreCase))
                .Value,
            RowKind.Placement => Placement?.Name,
            RowKind.Set => Placement?.Set,
            RowKind.Publisher => Placement?.Publisher,
            RowKind.Link => Source.LinkId?.ToString(),
            RowKind.Source => SourceName,
            RowKind.Medium => MediumName,
            RowKind.SourceMedium => SourceName is null && MediumName is null ? null : $"{SourceName ?? "–"} / {MediumName ?? "–"}",
            RowKind.Content => ValueOf(FieldMeaning.Content),
            RowKind.Term => ValueOf(FieldMeaning.Term),
            RowKind.Id => ValueOf(FieldMeaning.Id),
            RowKind.Field => _convention.Find(field.Name) is { } known ? _values.GetValueOrDefault(known.Key) : null,
            RowKind.Part => PartOf(field.Name),
            RowKind.Referrer => Source.ReferrerHost.Length == 0 ? null : Source.ReferrerHost,
            RowKind.Site => Source.SiteId.ToString(),
            RowKind.Typed => Source.Typed.Length == 0 ? null : Source.Typed,
            _ => null,
        };

    private CampaignOfVisit? Campaign => _campaign.Value;

    private PlacementOfVisit? Placement => _placement.Value;

    private string? SourceName =>
        ValueOf(FieldMeaning.Source)
        ?? (
            Source.Tags.Any ? null
            : Source.ReferrerHost.Length > 0 ? Source.ReferrerHost
            : TrafficSource.Direct
        );

    private string? MediumName =>
        ValueOf(FieldMeaning.Medium) ?? (Source.Tags.Any || Source.ReferrerHost.Length == 0 ? null : TrafficSource.Referral);

    private string? ValueOf(FieldMeaning meaning) =>
        _convention.KeyOf(meaning) is { } key ? _values.GetValueOrDefault(key) : Source.Tags.ValueOf(new Tag(StandardKeys.Of(meaning), ""));

    /// <summary>A part of a composed field's value: the pattern's separator can't occur inside parts, so the name comes apart again.</summary>
    private string? PartOf(string name)
    {
        int dot = name.LastIndexOf('.');
        if (
            dot < 1
            || !int.TryParse(name.AsSpan(dot + 1), out int number)
            || _convention.Find(name[..dot]) is not { Pattern: { } pattern } field
            || !_values.TryGetValue(field.Key, out string? value)
        )
        {
            return null;
        }

        string[] parts = value.Split(pattern.Separator);
        return parts.Length == pattern.Parts.Count && number >= 1 && number <= parts.Length ? parts[number - 1] : null;
    }

    private Channel? FindChannel() =>
        _convention.Channels.ClaimOf(
            new ChannelFacts(
                ValueOf(FieldMeaning.Source) ?? "",
                ValueOf(FieldMeaning.Medium) ?? "",
                ValueOf(FieldMeaning.Campaign) ?? "",
                Source.ReferrerHost,
                ReferrerKinds.Of(Source.ReferrerHost, _convention.ReferrerKinds),
                Source.Tags.Any,
                Source.Printed
            )
        );
}
