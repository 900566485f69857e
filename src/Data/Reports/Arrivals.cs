using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>What is asked of Arrivals.</summary>
/// <param name="WorkspaceId">The workspace.</param>
/// <param name="Currency">Its currency, ISO 4217; revenue in another one is shown apart.</param>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Rows">What rows are made by, outermost first; none gives the total alone.</param>
/// <param name="Where">Only visits with these values; a null value means visits without one.</param>
public sealed record ArrivalsRequest(
    Guid WorkspaceId, string Currency, DateOnly From, DateOnly To, IReadOnlyList<Dimension> Rows, IReadOnlyList<(Dimension Dimension, string? Value)> Where);

/// <summary>A breakdown of arrivals.</summary>
/// <param name="Rows">Only combinations that occur, most visits first.</param>
/// <param name="Total">The same without a breakdown; visitors are counted anew.</param>
/// <param name="Days">Days with visits, in order.</param>
/// <param name="RevenueElsewhere">Revenue in other currencies, never added up with the rest.</param>
/// <param name="Lost">Events that could not be kept in the range.</param>
public sealed record Arrivals(
    IReadOnlyList<ArrivalsRow> Rows, Figures Total, IReadOnlyList<ArrivalsDay> Days, IReadOnlyDictionary<string, decimal> RevenueElsewhere, long Lost);

/// <summary>One row of a breakdown.</summary>
public sealed record ArrivalsRow(IReadOnlyList<string?> Keys, Figures Figures);

/// <summary>One day of the chart.</summary>
public sealed record ArrivalsDay(DateOnly Day, long Visits, long ConvertingVisits);
