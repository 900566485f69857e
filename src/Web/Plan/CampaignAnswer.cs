using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>A campaign as the plan shows it.</summary>
/// <param name="Value">What the campaign field says on its links, unless the field is composed.</param>
/// <param name="Budget">In the workspace's currency; null for none.</param>
/// <param name="Advertises">Ids, names or categories of the products it advertises.</param>
/// <param name="Revision">To be sent along when it is changed.</param>
/// <param name="Links">Links made for it.</param>
/// <param name="Planned">Planned links.</param>
/// <param name="Missing">Planned links that have not been made yet.</param>
public sealed record CampaignAnswer(
    Guid Id,
    string Name,
    string Value,
    DateOnly? StartsOn,
    DateOnly? EndsOn,
    CampaignState State,
    string? Owner,
    decimal? Budget,
    string? Goal,
    Dictionary<string, string> Attributes,
    IReadOnlyList<string> Advertises,
    bool Archived,
    int Revision,
    int Links,
    int Planned,
    int Missing
)
{
    public static CampaignAnswer Of(Campaign campaign, DateOnly today, int links = 0, int planned = 0, int missing = 0) =>
        new(
            campaign.Id,
            campaign.Name,
            campaign.Value,
            campaign.StartsOn,
            campaign.EndsOn,
            new CampaignDates(campaign.StartsOn, campaign.EndsOn).On(today),
            campaign.Owner,
            campaign.Budget,
            campaign.Goal,
            campaign.Attributes,
            campaign.Advertises,
            campaign.ArchivedAt is not null,
            campaign.Revision,
            links,
            planned,
            missing
        );
}

/// <summary>A campaign as somebody writes it.</summary>
/// <param name="Value">What the campaign field is to say; proposed from name and dates where it is left out.</param>
/// <param name="Advertises">Ids, names or categories of the products it advertises, as shops report them.</param>
/// <param name="Revision">The revision that was changed; left out for a new one.</param>
public sealed record CampaignRequest(
    string? Name,
    string? Value = null,
    DateOnly? StartsOn = null,
    DateOnly? EndsOn = null,
    string? Owner = null,
    decimal? Budget = null,
    string? Goal = null,
    Dictionary<string, string>? Attributes = null,
    int Revision = 0,
    IReadOnlyList<string?>? Advertises = null
);

/// <summary>A campaign to be taken up again.</summary>
/// <param name="StartsOn">First day of the new one; a year after the old one's where it is left out.</param>
public sealed record NextSeasonRequest(string? Name = null, string? Value = null, DateOnly? StartsOn = null);

/// <summary>What a campaign would be called on its links.</summary>
/// <param name="Value">The written value.</param>
/// <param name="Composed">True when the convention puts the name together; then <paramref name="Value"/> is an example of it.</param>
public sealed record CampaignPreview(string Value, bool Composed, IReadOnlyList<Notice> Notices);

/// <summary>Everything about one campaign.</summary>
/// <param name="Overlaps">Names of campaigns that run on some of the same days, always-on ones left out.</param>
/// <param name="Results">What came of it so far, by placement, most visits first.</param>
/// <param name="Budget">Its budget beside what it cost; null where it has none.</param>
public sealed record CampaignDetail(
    CampaignAnswer Campaign,
    IReadOnlyList<PlannedAnswer> Planned,
    IReadOnlyList<string> Overlaps,
    IReadOnlyList<PlacementResult> Results,
    PlacementResult Total,
    BudgetAnswer? Budget
);

/// <summary>A campaign's budget beside what it cost.</summary>
/// <param name="Budget">Money for the whole campaign.</param>
/// <param name="Spent">Its cost up to and with today.</param>
/// <param name="Share">What was spent of it: 0.5 is half; null for a budget of nothing.</param>
/// <param name="Foreseen">Its cost by its last day if clicks go on as they came; null where it has no end, or is over.</param>
/// <param name="IsOver">True where more is spent than there is, or will be.</param>
public sealed record BudgetAnswer(Money Budget, Money Spent, decimal? Share, Money? Foreseen, bool IsOver)
{
    public static BudgetAnswer Of(CampaignBudget budget, string currency) =>
        new(
            Money.Of(budget.Budget, currency),
            Money.Of(budget.Spent, currency),
            budget.Share,
            budget.Foreseen is { } foreseen ? Money.Of(foreseen, currency) : null,
            budget.IsOver
        );
}

/// <summary>What links in one placement brought for a campaign.</summary>
/// <param name="Clicks">People's clicks and scans.</param>
/// <param name="Cost">What it cost so far; null where the placement has no cost.</param>
/// <param name="Figures">The same as a line of Arrivals' board; visitors are not counted.</param>
public sealed record PlacementResult(
    string? Placement,
    int Links,
    long Clicks,
    long Visits,
    long Conversions,
    decimal? ConversionRate,
    Money Revenue,
    Money? Cost,
    Money? Profit,
    FigureAnswer Figures
);

/// <summary>An attribute campaigns have.</summary>
/// <param name="Values">Values to choose from; none for free text.</param>
public sealed record AttributeAnswer(string Name, IReadOnlyList<string> Values);
