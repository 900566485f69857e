using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>What is asked of Arrivals.</summary>
/// <param name="WorkspaceId">The workspace.</param>
/// <param name="Currency">Its currency, ISO 4217; revenue in another one is shown apart.</param>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Rows">What rows are made by, outermost first; none gives the total alone.</param>
/// <param name="Where">Only visits that fulfil all of these.</param>
/// <param name="WithVisitors">Counts distinct visitors too, which takes longest; else there are none.</param>
public sealed record ArrivalsRequest(
    Guid WorkspaceId,
    string Currency,
    DateOnly From,
    DateOnly To,
    IReadOnlyList<RowField> Rows,
    IReadOnlyList<RowCondition> Where,
    bool WithVisitors = true
)
{
    private const int MostDays = 186;

    /// <summary>True where the chart has a point for every month instead of every day.</summary>
    public bool ByMonth => To.DayNumber - From.DayNumber >= MostDays;
}
