using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Plan;

/// <summary>A placement as the plan shows it.</summary>
/// <param name="Defaults">Default values by field key; they may hold fill-ins such as <c>@{page}</c>.</param>
/// <param name="Asks">Keys of fields it wants typed for each link.</param>
/// <param name="ToolWrites">What the tool behind it writes by itself, by key; empty where the value is not known.</param>
/// <param name="UseDays">ISO 8601 weekday numbers; none for every day.</param>
/// <param name="MayUseToday">True when today is one of its days.</param>
/// <param name="NextDay">The first day from today on which it may be used.</param>
/// <param name="CostPerClick">What a click costs today, in the workspace's currency; null where clicks are not what is paid for.</param>
/// <param name="Rates">What its links cost from which day on, in order, spans last.</param>
/// <param name="ShortDomain">The short domain its short links are made on; null for the first.</param>
/// <param name="Revision">To be sent along when it is changed.</param>
/// <param name="Links">Links made with it.</param>
public sealed record PlacementAnswer(
    Guid Id,
    string Name,
    string Channel,
    string? Publisher,
    Dictionary<string, string> Defaults,
    IReadOnlyList<string> Asks,
    Dictionary<string, string> ToolWrites,
    IReadOnlyList<string> Tags,
    IReadOnlyList<int> UseDays,
    string? UseForm,
    bool MayUseToday,
    DateOnly NextDay,
    TagStyle? Style,
    string? ShareForm,
    decimal? CostPerClick,
    decimal? FixedCost,
    IReadOnlyList<CostRate> Rates,
    Guid? ShortDomain,
    bool Retired,
    int Revision,
    int Links
)
{
    public static PlacementAnswer Of(Placement p, DateOnly today, int links = 0) =>
        new(
            p.Id,
            p.Name,
            p.Channel,
            p.Publisher,
            p.Defaults,
            p.Asks,
            p.ToolWrites,
            p.Tags,
            p.UseDays,
            p.UseForm,
            Core.Plan.UseDays.Allow(p.UseDays, today),
            Core.Plan.UseDays.NextFrom(p.UseDays, today),
            p.Style,
            p.ShareForm,
            CostRates.ClickCostOn(CostRates.Parse(p.Rates), today),
            p.FixedCost,
            CostRates.InOrder(CostRates.Parse(p.Rates)),
            p.ShortDomainId,
            p.RetiredAt is not null,
            p.Revision,
            links
        );
}

/// <summary>A placement as somebody writes it.</summary>
/// <param name="CostPerClick">What a click costs from today on, or ever since for a new placement; earlier days keep their cost.</param>
/// <param name="ShortDomain">Id of the short domain its short links are made on; left out for the first.</param>
/// <param name="Revision">The revision that was changed; left out for a new one.</param>
public sealed record PlacementRequest(
    string? Name,
    string? Channel,
    string? Publisher = null,
    Dictionary<string, string>? Defaults = null,
    IReadOnlyList<string>? Asks = null,
    Dictionary<string, string>? ToolWrites = null,
    IReadOnlyList<string>? Tags = null,
    IReadOnlyList<int>? UseDays = null,
    string? UseForm = null,
    TagStyle? Style = null,
    string? ShareForm = null,
    decimal? CostPerClick = null,
    decimal? FixedCost = null,
    Guid? ShortDomain = null,
    int Revision = 0
);

/// <summary>Which placement takes over.</summary>
public sealed record MergeRequest(Guid Into);

/// <summary>What a merge moved.</summary>
public sealed record MergeAnswer(int Links, int Planned, int Sets);

/// <summary>Placements that are picked as one.</summary>
public sealed record PlacementSetAnswer(Guid Id, string Name, IReadOnlyList<Guid> Placements);

/// <summary>A set as somebody writes it.</summary>
public sealed record PlacementSetRequest(string? Name, IReadOnlyList<Guid>? Placements);

/// <summary>Default values that follow from what is known of a new placement.</summary>
/// <param name="Defaults">Values by the field's key; empty where nothing follows.</param>
public sealed record PlacementDefaultsAnswer(IReadOnlyDictionary<string, string> Defaults);
