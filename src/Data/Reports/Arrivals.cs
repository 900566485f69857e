using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>A breakdown of arrivals.</summary>
/// <param name="Rows">Only what occurs, in no order.</param>
/// <param name="Total">The same without a breakdown; visitors are counted anew.</param>
/// <param name="Days">The series: first days of its points, in order, those without visits left out.</param>
/// <param name="RevenueElsewhere">Revenue in other currencies, never added up with the rest.</param>
/// <param name="Lost">Events that could not be kept in the range.</param>
/// <param name="Full">What brought more different values than are told apart, on a day of the range or in all; see <see cref="ValueLimits"/>.</param>
/// <param name="Freshness">How far the workspace's visits are worked out.</param>
/// <param name="Plan">What campaigns, placements and links are called.</param>
public sealed record Arrivals(
    IReadOnlyList<ReportRow> Rows,
    Figures Total,
    IReadOnlyList<ArrivalsDay> Days,
    IReadOnlyDictionary<string, decimal> RevenueElsewhere,
    long Lost,
    IReadOnlyList<string> Full,
    Freshness Freshness,
    PlanOfVisits Plan
)
{
    /// <summary>Refunds in other currencies, never added up with the rest; by ISO 4217 code.</summary>
    public IReadOnlyDictionary<string, decimal> RefundsElsewhere { get; init; } = new Dictionary<string, decimal>();

    /// <summary>Cost in other currencies, never added up with the rest; by ISO 4217 code.</summary>
    public IReadOnlyDictionary<string, decimal> CostElsewhere { get; init; } = new Dictionary<string, decimal>();

    /// <summary>How often each kind of conversion and each named event occurred.</summary>
    public IReadOnlyDictionary<NamedMeasure, long> Occurring { get; init; } = new Dictionary<NamedMeasure, long>();

    /// <summary>Whether clicks were counted; else there are none in the figures.</summary>
    public bool HasClicks { get; init; }

    /// <summary>Visits of single rows by points of the series, those without visits left out; empty where no lines were asked for.</summary>
    public IReadOnlyDictionary<RowKey, IReadOnlyDictionary<DateOnly, long>> Lines { get; init; } =
        new Dictionary<RowKey, IReadOnlyDictionary<DateOnly, long>>();
}

/// <summary>How far visits are worked out.</summary>
/// <param name="UpTo">The newest event that is in the figures; null where there is none.</param>
/// <param name="Waiting">How many visitors' days have events that are not in the figures yet; beyond 1,000 it says 1,000.</param>
public sealed record Freshness(DateTimeOffset? UpTo, long Waiting);

/// <summary>One point of the chart.</summary>
public sealed record ArrivalsDay(DateOnly Day, long Visits, long ConvertingVisits);
