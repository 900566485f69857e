using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>All fields of one link, written: first those that stand alone, then those put together from them.</summary>
/// <param name="Fields">The fields in the convention's order.</param>
/// <param name="NameChannel">The channel that names were put together with; null where none is composed, or none is known.</param>
public sealed record FieldSet(IReadOnlyList<ComposedField> Fields, string? NameChannel)
{
    /// <summary>Writes the fields.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="given">What was given for each field, in the convention's order; empty for nothing.</param>
    /// <param name="campaign">The campaign, or null.</param>
    /// <param name="placementChannel">The channel of the placement, or null.</param>
    /// <param name="today">Today in the workspace's zone; null when an old link is judged, whose day is not known.</param>
    /// <param name="notices">Receives the notices about each value by itself.</param>
    public static FieldSet Write(
        Convention convention,
        IReadOnlyList<GivenValue> given,
        CampaignChoice? campaign,
        string? placementChannel,
        DateOnly? today,
        ICollection<Notice> notices
    )
    {
        var fields = new ComposedField[convention.Fields.Count];
        bool composes = false;
        for (int i = 0; i < fields.Length; i++)
        {
            var field = convention.Fields[i];
            composes |= field.Kind == FieldKind.Composed;
            fields[i] = field.Kind == FieldKind.Composed ? ComposedField.Empty(field) : FieldValue.Write(field, given[i], notices);
        }

        if (!composes)
        {
            return new FieldSet(fields, null);
        }

        string? channel = placementChannel ?? new LinkContext(convention, fields, []).Claim?.Name;
        for (int i = 0; i < fields.Length; i++)
        {
            if (convention.Fields[i].Kind == FieldKind.Composed)
            {
                fields[i] = NameValue.Write(convention, convention.Fields[i], given[i], fields, campaign, channel, today, notices);
            }
        }

        return new FieldSet(fields, channel);
    }
}
