using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>One distinct raw way in which visits arrived, read when a report is made, so that the past follows the convention.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Tags">The raw tag values.</param>
/// <param name="ReferrerHost">Host of the outside referrer; empty when there was none.</param>
/// <param name="LandingPage">Host and path of the first page.</param>
/// <param name="Device">The kind of device.</param>
/// <param name="Printed">It came through a printed code.</param>
public sealed record TrafficSource(Guid Id, ArrivalTags Tags, string ReferrerHost, string LandingPage, string Device, bool Printed = false)
{
    /// <summary>What a visit without tags and without a referrer is called (the trade's word).</summary>
    public const string Direct = "direct";

    /// <summary>What the medium of an untagged visit from another site is called (the trade's word).</summary>
    public const string Referral = "referral";

    /// <summary>The row a visit belongs to; null where it has no such value.</summary>
    public string? KeyOf(Dimension dimension, Convention convention) =>
        dimension switch
        {
            Dimension.Channel => ChannelOf(convention)?.Name ?? ChannelTable.Unsorted,
            Dimension.Group => ChannelOf(convention) is { } channel ? channel.Group : ChannelTable.Unsorted,
            Dimension.Campaign => Written(Tags.Campaign, FieldMeaning.Campaign, convention),
            Dimension.Source => Written(Tags.Source, FieldMeaning.Source, convention)
                ?? (
                    Tags.Any ? null
                    : ReferrerHost.Length > 0 ? ReferrerHost
                    : Direct
                ),
            Dimension.Medium => Written(Tags.Medium, FieldMeaning.Medium, convention)
                ?? (Tags.Any || ReferrerHost.Length == 0 ? null : Referral),
            Dimension.Content => Written(Tags.Content, FieldMeaning.Content, convention),
            Dimension.Term => Written(Tags.Term, FieldMeaning.Term, convention),
            Dimension.Id => Written(Tags.TagId, FieldMeaning.Id, convention),
            Dimension.Referrer => ReferrerHost.Length == 0 ? null : ReferrerHost,
            Dimension.Page => LandingPage,
            _ => Device,
        };

    private Channel? ChannelOf(Convention convention) =>
        convention.Channels.ClaimOf(
            new ChannelFacts(
                Written(Tags.Source, FieldMeaning.Source, convention) ?? "",
                Written(Tags.Medium, FieldMeaning.Medium, convention) ?? "",
                Written(Tags.Campaign, FieldMeaning.Campaign, convention) ?? "",
                ReferrerHost,
                ReferrerKinds.Of(ReferrerHost, convention.ReferrerKinds),
                Tags.Any,
                Printed
            )
        );

    /// <summary>An alias counts as its word; anything else is shown as it came.</summary>
    private static string? Written(string? raw, FieldMeaning meaning, Convention convention) =>
        raw is not null
        && convention.IndexOf(meaning) is var at and >= 0
        && convention.Fields[at].Words?.Match(raw) is { Kind: not WordMatchKind.Unknown, Word: { } word }
            ? word.Written
            : raw;
}
