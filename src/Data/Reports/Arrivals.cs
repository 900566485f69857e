using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>A breakdown of arrivals.</summary>
/// <param name="Rows">Only combinations that occur, most visits first.</param>
/// <param name="Total">The same without a breakdown; visitors are counted anew.</param>
/// <param name="Days">Days with visits, in order; the first days of months where <see cref="ArrivalsRequest.ByMonth"/> says so.</param>
/// <param name="RevenueElsewhere">Revenue in other currencies, never added up with the rest.</param>
/// <param name="Lost">Events that could not be kept in the range.</param>
public sealed record Arrivals(
    IReadOnlyList<ArrivalsRow> Rows,
    Figures Total,
    IReadOnlyList<ArrivalsDay> Days,
    IReadOnlyDictionary<string, decimal> RevenueElsewhere,
    long Lost
);

/// <summary>One row of a breakdown.</summary>
public sealed record ArrivalsRow(IReadOnlyList<string?> Keys, Figures Figures);

/// <summary>One point of the chart.</summary>
public sealed record ArrivalsDay(DateOnly Day, long Visits, long ConvertingVisits);
