using Npgsql;
using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Gives the conversions of a report their credit, by the visits that led to them.</summary>
internal sealed class CreditReader(VisitSegments segments, TrafficSourceCache sources)
{
    private const int SecondsADay = 86_400;

    private readonly VisitScanner _scanner = new(segments);

    /// <summary>Gives all credit of a scan.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="request">What is asked.</param>
    /// <param name="scan">The scan, whose conversions wait where credit is asked for and tells anything apart.</param>
    /// <param name="refunded">Orders for which money went back, which are credited alike.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>The touches of an order and how much each counts; null where everything stands with its own visit.</returns>
    public async Task<Func<RefundedOrder, IReadOnlyList<(int SourceId, long Weight)>>?> GiveAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        VisitScan scan,
        IReadOnlyCollection<RefundedOrder> refunded,
        CancellationToken cancel
    )
    {
        if (request.Credit is not { } choice || scan.Points is not { } points)
        {
            return null;
        }

        var orders = refunded.Where(o => o.Visitor != 0).ToList();
        var history = await HistoryAsync(
            connection,
            request,
            [.. points.All.Select(p => (p.Visitor, p.Visit.At)), .. orders.Select(o => (o.Visitor, o.At))],
            cancel
        );
        var isTagged = await TaggedAsync(request.WorkspaceId, cancel);
        scan.Credit(history, choice, isTagged);
        return order =>
        {
            if (order.Visitor == 0)
            {
                return [(order.SourceId, 1)];
            }

            var touches = new Touch[CreditChoice.MostTouches];
            int count = history.Before(order.Visitor, new Touch(order.At, order.SourceId), choice.Seconds, touches);
            long[] weights = new long[count];
            choice.Rule.Weigh(touches.AsSpan(0, count), isTagged, weights);
            return [.. weights.Select((weight, i) => (touches[i].SourceId, weight))];
        };
    }

    /// <summary>The visits of those who converted, back to the first that may be a touch of one of them.</summary>
    public async Task<TouchHistory> HistoryAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        IReadOnlyList<(ulong Visitor, long At)> converted,
        CancellationToken cancel
    )
    {
        if (converted.Count == 0)
        {
            return new TouchHistory([]);
        }

        // Days are of the workspace's zone and moments of UTC, so one day more on either side.
        var from = DayOf(converted.Min(c => c.At) - request.Credit!.Seconds).AddDays(-1);
        var to = DayOf(converted.Max(c => c.At)).AddDays(1);
        return await _scanner.HistoryAsync(connection, (request.WorkspaceId, from, to), converted.Select(c => c.Visitor), cancel);
    }

    /// <summary>Whether a source is a link or has tags.</summary>
    public async Task<Func<int, bool>> TaggedAsync(Guid workspaceId, CancellationToken cancel)
    {
        var tagged = (await sources.ReadAsync(workspaceId, cancel))
            .Where(s => s.LinkId is not null || s.Tags.Any)
            .Select(s => s.Id)
            .ToHashSet();
        return tagged.Contains;
    }

    private static DateOnly DayOf(long seconds) => DateOnly.FromDayNumber((int)Math.Max(1, seconds / SecondsADay));
}
