using System.Data;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads the ways people took to their conversions.</summary>
public sealed class PathReader(NpgsqlDataSource database, VisitSegments segments, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    private readonly VisitScanner _scanner = new(segments);
    private readonly CreditReader _credits = new(segments, sources);

    /// <summary>All ways in a range, the commonest first, with the plan their steps are called by.</summary>
    /// <param name="request">The range and what converting visits fulfil; its one row is what steps are called by, a field of sources, and its credit says how far back they go.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<(IReadOnlyList<ConversionPath> Paths, PlanOfVisits Plan)> ReadAsync(
        ArrivalsRequest request,
        Convention convention,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var maps = await new RowMapReader(database, sources).ReadAsync(request, convention, plan, cancel);
        var called = await sources.MapAsync(request.WorkspaceId, RowTable.Source, request.Rows, [], convention, plan, cancel);
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        using var scan = await _scanner.ScanAsync(connection, request, maps, cancel);
        var history = await _credits.HistoryAsync(connection, request, [.. scan.Points!.All.Select(p => (p.Visitor, p.Visit.At))], cancel);
        return (
            ConversionPaths.Of(
                scan.Points,
                history,
                request.Credit!,
                (maps.Find(m => m.Table == RowTable.Source)!, called),
                request.Currency
            ),
            plan
        );
    }
}
