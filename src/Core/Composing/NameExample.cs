using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Composing;

/// <summary>A name as a pattern makes it of what the convention offers, and what any name comes apart into.</summary>
public static class NameExample
{
    /// <summary>Puts an example together: first words, examples of fields, the campaign given.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="field">A composed field of it.</param>
    /// <param name="campaign">A campaign to name.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    public static string Of(Convention convention, Field field, CampaignChoice campaign, DateOnly today) =>
        NameValue.Compose(field.Pattern!, field.Rules, [.. field.Pattern!.Parts.Select(p => ValueOf(p, convention, campaign, today))]).Name;

    /// <summary>Takes a name apart.</summary>
    /// <returns>What each part is called and its written form, in order; none when the name does not fit.</returns>
    public static IReadOnlyList<KeyValuePair<string, string>> Apart(Convention convention, Field field, string name) =>
        NameValue.TakeApart(field.Pattern!, field.Rules, name) is { } parts
            ? [.. parts.Select((p, i) => KeyValuePair.Create(NameValue.Called(field.Pattern!.Parts[i], convention), p))]
            : [];

    private static string ValueOf(NamePart part, Convention convention, CampaignChoice campaign, DateOnly today) =>
        part.Kind switch
        {
            NamePartKind.Field => convention.Find(part.Of) is not { } field ? part.Of
            : field.Kind == FieldKind.Date ? DateText.Write(campaign.Starts ?? today, field.DateForm)
            : field.Fixed is { Length: > 0 } said ? said
            : field.Words?.Words.FirstOrDefault(w => !w.Retired)?.Written ?? field.Example ?? field.Label,
            NamePartKind.Date => DateText.Write(campaign.Starts ?? today, part.Form),
            NamePartKind.Literal => part.Of,
            NamePartKind.Campaign => campaign.Name,
            NamePartKind.Attribute => campaign.Attributes?.GetValueOrDefault(part.Of) ?? part.Of,
            _ => convention.Channels.Rows.Count > 0 ? convention.Channels.Rows[0].Name : "channel",
        };
}
