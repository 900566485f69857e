using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>A link on its way through <see cref="LinkPipeline"/>, as its checks see it.</summary>
/// <param name="Convention">The convention it is judged by.</param>
/// <param name="Fields">Its fields in the convention's order, written.</param>
/// <param name="Said">The notices so far; a check may look at those of the checks before it.</param>
public sealed record LinkContext(Convention Convention, IReadOnlyList<ComposedField> Fields, IReadOnlyCollection<Notice> Said)
{
    private Channel? _claim;
    private bool _isClaimed;

    /// <summary>The campaign it is for, or null.</summary>
    public CampaignChoice? Campaign { get; init; }

    /// <summary>The placement it is for; null where there is none, or only its channel is known.</summary>
    public PlacementChoice? Placement { get; init; }

    /// <summary>The channel its visitors are meant to belong to, or null.</summary>
    public string? MeantChannel { get; init; }

    /// <summary>The channel that names were put together with, or null.</summary>
    public string? NameChannel { get; init; }

    /// <summary>Today in the workspace's zone; null when an old link is judged, whose day is not known.</summary>
    public DateOnly? Today { get; init; }

    /// <summary>What is known about the outside; null where only values are judged.</summary>
    public LinkFacts? Facts { get; init; }

    /// <summary>Host and port of the page it stands on, or null when that is not known.</summary>
    public string? FoundOn { get; init; }

    /// <summary>How it is written.</summary>
    public LinkSettings Settings { get; init; } = Convention.Settings;

    /// <summary>The page's address as it was typed; null where only values are judged.</summary>
    public Destination? Destination { get; init; }

    /// <summary>The tagged URL; null until it is written.</summary>
    public TaggedUrl? Tagged { get; init; }

    /// <summary>The channel that claims a link with these values; null when none does. Several checks ask, and the table is gone through once.</summary>
    public Channel? Claim
    {
        get
        {
            if (!_isClaimed)
            {
                _claim = Convention.Channels.ClaimOf(
                    ChannelFacts.OfLink(ValueOf(FieldMeaning.Source), ValueOf(FieldMeaning.Medium), ValueOf(FieldMeaning.Campaign))
                );
                _isClaimed = true;
            }

            return _claim;
        }
    }

    /// <summary>The written value of the field that means something; empty where there is no such field or value.</summary>
    public string ValueOf(FieldMeaning meaning) => Convention.IndexOf(meaning) is var at and >= 0 ? Fields[at].Value : "";

    /// <summary>What checks say, one after the other.</summary>
    internal static void Run(ReadOnlySpan<Func<LinkContext, IEnumerable<Notice>>> checks, LinkContext link, List<Notice> notices)
    {
        foreach (var check in checks)
        {
            // Most say nothing. What one says is added once it is done, since it may look at what was said before.
            List<Notice>? said = null;
            foreach (var notice in check(link))
            {
                (said ??= []).Add(notice);
            }

            if (said is not null)
            {
                notices.AddRange(said);
            }
        }
    }
}
