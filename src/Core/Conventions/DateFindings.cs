using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Whether a date in a link lies within its campaign.</summary>
internal static class DateFindings
{
    public static void Say(Field field, ComposedField composed, CampaignChoice? campaign, ICollection<Notice> notices) =>
        Say(field, composed.Value, field.DateForm, campaign, notices);

    public static void Say(Field field, string text, DateForm form, CampaignChoice? campaign, ICollection<Notice> notices)
    {
        if (campaign is null || DateText.Read(text, form) is not { } date || !(date.Last < campaign.Starts || date.First > campaign.Ends))
        {
            return;
        }

        notices.Add(Notice.Of(
            NoticeRules.OutsideCampaignDates, field.Key,
            $"{field.Label}: “{text}” lies outside “{campaign.Name}” ({DateText.Say(campaign.Starts, campaign.Ends)}); check which of the two is meant.",
            field.Kind == FieldKind.Date && campaign.Starts is { } starts ? new Repair(field.Key, DateText.Write(starts, form), $"Use {DateText.Write(starts, form)}") : null));
    }
}
