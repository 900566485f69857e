using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>What was given for a field, before it is written.</summary>
/// <param name="Text">The value; empty when nothing gave one.</param>
/// <param name="From">Where it came from.</param>
public readonly record struct GivenValue(string Text, ValueOrigin From)
{
    /// <summary>Nothing gave the field a value.</summary>
    public static GivenValue Nothing { get; } = new("", ValueOrigin.None);
}

/// <summary>
/// Which of the things that could give a field its value does: the tag that is kept, what was typed, the placement's default, the
/// campaign, the day. The first one wins.
/// </summary>
internal static class GivenValues
{
    /// <summary>What is given for each field, in the convention's order.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="request">What the link is made from.</param>
    /// <param name="destination">The accepted destination, or null.</param>
    /// <param name="kept">Tags of the address that are kept, by key; null where none are.</param>
    /// <param name="facts">What is known about the outside.</param>
    /// <param name="notices">Receives the notices.</param>
    public static IReadOnlyList<GivenValue> Resolve(
        Convention convention,
        LinkRequest request,
        Destination? destination,
        IReadOnlyDictionary<string, string>? kept,
        LinkFacts facts,
        ICollection<Notice> notices
    )
    {
        var typed = TypedByKey(convention, request.Fields, notices);
        var given = new GivenValue[convention.Fields.Count];
        for (int i = 0; i < given.Length; i++)
        {
            var field = convention.Fields[i];
            given[i] =
                kept is not null && kept.TryGetValue(field.Key, out string? value) && value.Length > 0
                    ? new GivenValue(value, ValueOrigin.Address)
                    : Of(convention, field, typed, request, destination, facts, notices);
        }

        for (int i = 0; i < given.Length && facts.Campaigns is not null; i++)
        {
            given[i] =
                given[i].From == ValueOrigin.Campaign
                    ? given[i]
                    : given[i] with
                    {
                        Text = facts.Campaigns.Resolve(convention.Fields[i], given[i].Text, notices),
                    };
        }

        return given;
    }

    private static Dictionary<string, string> TypedByKey(
        Convention convention,
        IReadOnlyDictionary<string, string> given,
        ICollection<Notice> notices
    )
    {
        var typed = new Dictionary<string, string>(given.Count, StringComparer.Ordinal);
        foreach (var (name, value) in given)
        {
            if (convention.Find(name) is { } field)
            {
                typed[field.Key] = value;
                continue;
            }

            var near = convention.NearestTo(name);
            notices.Add(
                Notice.Of(
                    NoticeRules.FieldUnknown,
                    null,
                    $"The convention has no field “{name}”"
                        + (near is null ? "; remove it or ask an owner to add it." : $"; did you mean “{near.Key}”?")
                )
            );
        }

        return typed;
    }

    private static GivenValue Of(
        Convention convention,
        Field field,
        Dictionary<string, string> typed,
        LinkRequest request,
        Destination? destination,
        LinkFacts facts,
        ICollection<Notice> notices
    )
    {
        if (typed.TryGetValue(field.Key, out string? value) && (value.Length > 0 || field.Kind == FieldKind.Text))
        {
            return new GivenValue(value, ValueOrigin.Typed);
        }

        if (request.Placement is { } placement && DefaultValue.Of(convention, placement, field) is { Length: > 0 } template)
        {
            var (filled, missing) = DefaultValue.Fill(template, request, destination, facts.Today);
            if (missing.Count == 0)
            {
                return new GivenValue(filled, ValueOrigin.Placement);
            }

            notices.Add(
                Notice.Of(
                    NoticeRules.DefaultUnfilled,
                    field.Key,
                    $"{field.Label}: “{placement.Name}” needs “{missing[0]}”, which is missing here; choose a campaign that has it, or type {field.Label}."
                )
            );
            return GivenValue.Nothing;
        }

        if (field.Kind == FieldKind.Date)
        {
            return request.Campaign?.Starts is { } starts
                ? new GivenValue(DateText.Write(starts, field.DateForm), ValueOrigin.Campaign)
                : new GivenValue(DateText.Write(facts.Today, field.DateForm), ValueOrigin.Today);
        }

        return field.Kind == FieldKind.Text && request.Campaign is { } campaign && convention.KeyOf(FieldMeaning.Campaign) == field.Key
            ? new GivenValue(campaign.Value, ValueOrigin.Campaign)
            : GivenValue.Nothing;
    }
}
