using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>Dates that lie outside their campaign, and campaigns that have ended.</summary>
internal static class DateCheck
{
    /// <summary>Fields that hold a date.</summary>
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        for (int i = 0; i < link.Fields.Count; i++)
        {
            var field = link.Convention.Fields[i];
            if (field.Kind == FieldKind.Date && Outside(field, link.Fields[i].Value, field.DateForm, link.Campaign) is { } outside)
            {
                yield return outside;
            }
        }
    }

    /// <summary>The campaign itself, seen from today.</summary>
    public static IEnumerable<Notice> RunCampaign(LinkContext link)
    {
        if (link.Campaign?.Ends is { } last && last < link.Today)
        {
            yield return Notice.Of(
                NoticeRules.OutsideCampaignDates,
                null,
                $"“{link.Campaign.Name}” ended on {DateText.Say(last)}; choose another campaign if this link is for later."
            );
        }
    }

    /// <summary>A date that lies wholly outside a campaign's days; null where it doesn't, or is none.</summary>
    public static Notice? Outside(Field field, string text, DateForm form, CampaignChoice? campaign)
    {
        if (campaign is null || DateText.Read(text, form) is not { } date || !(date.Last < campaign.Starts || date.First > campaign.Ends))
        {
            return null;
        }

        return Notice.Of(
            NoticeRules.OutsideCampaignDates,
            field.Key,
            $"{field.Label}: “{text}” lies outside “{campaign.Name}” ({DateText.Say(campaign.Starts, campaign.Ends)}); check which of the two is meant.",
            field.Kind == FieldKind.Date && campaign.Starts is { } starts
                ? new Repair(field.Key, DateText.Write(starts, form), $"Use {DateText.Write(starts, form)}")
                : null
        );
    }
}
