using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Proofs.Reconciling;

namespace PreciseBeacon.Core.Reports;

/// <summary>The figures of one row of Arrivals. A quotient with a zero divisor is null, never 0 or infinite.</summary>
public sealed record Figures
{
    private static readonly Dictionary<string, decimal> NoneNamed = [];

    public static readonly Figures Zero = new();

    public long Visits { get; init; }

    /// <summary>Distinct visitors; counted anew for every row, so rows don't add up to the total.</summary>
    public long Visitors { get; init; }

    public long PageViews { get; init; }

    /// <summary>Events pages named.</summary>
    public long Events { get; init; }

    public long Bounces { get; init; }

    /// <summary>Visits that were not bounces.</summary>
    public long Stayed => Visits - Bounces;

    public long Seconds { get; init; }

    /// <summary>Visits whose visitor is known by an id of the site's own, so that they are recognised over days.</summary>
    public long VisitsWithId { get; init; }

    /// <summary>Visitors with an id whose first visit known this is; each is new once, so these add up.</summary>
    public long NewVisitors { get; init; }

    public long ConvertingVisits { get; init; }

    /// <summary>Whole numbers, unless a model of credit shares them out.</summary>
    public decimal Conversions { get; init; }

    /// <summary>By the model compared with; null where there is none.</summary>
    public decimal? OtherConversions { get; init; }

    /// <summary>Revenue by that model, in the workspace's currency.</summary>
    public decimal? OtherRevenue { get; init; }

    /// <summary>Those among them that the shop's server sent signed.</summary>
    public decimal VerifiedConversions { get; init; }

    /// <summary>People's clicks on the row's short links, scans among them.</summary>
    public long Clicks { get; init; }

    /// <summary>Those clicks that came through printed codes.</summary>
    public long Scans { get; init; }

    /// <summary>Visits by links that have a short link, which a click could have led to; counted where there are clicks at all.</summary>
    public long VisitsByLink { get; init; }

    /// <summary>Revenue in the workspace's currency.</summary>
    public decimal Revenue { get; init; }

    /// <summary>Money that went back for orders, on the day it did, in the workspace's currency.</summary>
    public decimal Refunds { get; init; }

    /// <summary>Cost in the workspace's currency; null where the row has none.</summary>
    public decimal? Cost { get; init; }

    /// <summary>What other systems count of the row, those that were asked for.</summary>
    public OtherFigures Others { get; init; }

    /// <summary>Conversions by kind and events by name, those that were asked for, by <see cref="NamedMeasure"/> as calls write it.</summary>
    public IReadOnlyDictionary<string, decimal> Named { get; init; } = NoneNamed;

    /// <summary>How many more conversions the row has by the model compared with.</summary>
    public decimal? ConversionsGained => OtherConversions - Conversions;

    /// <summary>How much more revenue it has by that model.</summary>
    public decimal? RevenueGained => OtherRevenue - Revenue;

    public decimal? BounceRate => Ratio(Bounces, Visits);

    public decimal? ConversionRate => Ratio(ConvertingVisits, Visits);

    /// <summary>Visits by links that have a short link for each click; more than 1 where such links are also opened as they are.</summary>
    public decimal? VisitsPerClick => Ratio(VisitsByLink, Clicks);

    public decimal? RevenuePerVisit => Ratio(Revenue, Visits);

    public decimal? AverageOrder => Ratio(Revenue, Conversions);

    public decimal? RevenuePerVisitor => Ratio(Revenue, Visitors);

    public decimal? PagesPerVisit => Ratio(PageViews, Visits);

    public decimal? SecondsPerVisit => Ratio(Seconds, Visits);

    public decimal? Profit => Cost is { } cost ? Revenue - Refunds - cost : null;

    public decimal? Return => Cost is { } cost ? Ratio(Revenue - Refunds - cost, cost) : null;

    public decimal? CostPerClick => Cost is { } cost ? Ratio(cost, Clicks) : null;

    public decimal? CostPerVisit => Cost is { } cost ? Ratio(cost, Visits) : null;

    public decimal? CostPerConversion => Cost is { } cost ? Ratio(cost, Conversions) : null;

    /// <summary>Cost of a thousand times that another system showed something, whatever was paid for.</summary>
    public decimal? CostPerThousandShown => Cost is { } cost ? Ratio(cost * CostRate.ShownAtATime, Others.Shown ?? 0) : null;

    /// <summary>
    /// The figures of two rows together. Visitors are left at none: whoever is in both rows would count twice.
    /// </summary>
    public Figures With(Figures other) =>
        new()
        {
            Visits = Visits + other.Visits,
            PageViews = PageViews + other.PageViews,
            Events = Events + other.Events,
            Bounces = Bounces + other.Bounces,
            Seconds = Seconds + other.Seconds,
            VisitsWithId = VisitsWithId + other.VisitsWithId,
            NewVisitors = NewVisitors + other.NewVisitors,
            ConvertingVisits = ConvertingVisits + other.ConvertingVisits,
            Conversions = Conversions + other.Conversions,
            VerifiedConversions = VerifiedConversions + other.VerifiedConversions,
            OtherConversions = Sum(OtherConversions, other.OtherConversions),
            OtherRevenue = Sum(OtherRevenue, other.OtherRevenue),
            Clicks = Clicks + other.Clicks,
            Scans = Scans + other.Scans,
            VisitsByLink = VisitsByLink + other.VisitsByLink,
            Revenue = Revenue + other.Revenue,
            Refunds = Refunds + other.Refunds,
            Named = Added(Named, other.Named),
            Cost = Sum(Cost, other.Cost),
            Others = Others.Plus(other.Others),
        };

    /// <summary>Rounds money for showing to its currency's own decimals, half to even.</summary>
    /// <param name="money">The amount.</param>
    /// <param name="currency">ISO 4217.</param>
    public static decimal Shown(decimal money, string currency) =>
        Math.Round(money, Currencies.DecimalsOf(currency), MidpointRounding.ToEven);

    private static IReadOnlyDictionary<string, decimal> Added(
        IReadOnlyDictionary<string, decimal> one,
        IReadOnlyDictionary<string, decimal> other
    ) =>
        one.Count == 0 ? other
        : other.Count == 0 ? one
        : one
            .Keys.Union(other.Keys)
            .ToDictionary(n => n, n => one.GetValueOrDefault(n) + other.GetValueOrDefault(n), StringComparer.Ordinal);

    private static decimal? Sum(decimal? one, decimal? other) => one is null && other is null ? null : (one ?? 0) + (other ?? 0);

    private static decimal? Ratio(decimal part, decimal whole) => whole == 0 ? null : part / whole;
}
