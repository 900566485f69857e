using System.Threading.Channels;
using Npgsql;
using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Adds up the packed visits of a range by the groups of some maps.</summary>
internal sealed class VisitScanner(VisitSegments segments)
{
    /// <summary>So many parts of a range may wait for a processor.</summary>
    private const int Waiting = 16;

    /// <summary>Goes through the visits of the range: one thread reads, each processor adds up what it gets.</summary>
    public async Task<VisitScan> ScanAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        List<RowMap> maps,
        CancellationToken cancel
    )
    {
        // Credit only tells sources apart; where rows and conditions are about something else, it stands where the visit does.
        bool withPoints = request.Credit is not null && maps.Exists(m => m.Table == RowTable.Source);
        VisitScan Empty() => new(maps, request.Currency, request.WithVisitors, request.Named, withPoints);
        var scans = await EachAsync(
            connection,
            (request.WorkspaceId, request.From, request.To),
            Empty,
            (scan, visits, day) => scan.Add(visits, day),
            cancel
        );
        var all = VisitScan.Together(scans.Count == 0 ? [Empty()] : scans);
        foreach (var other in scans.Skip(1))
        {
            other.Dispose();
        }

        return all;
    }

    /// <summary>The visits of some visitors, with those of the days before.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="span">The workspace, the first and the last day.</param>
    /// <param name="visitors">Whose visits are wanted.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<TouchHistory> HistoryAsync(
        NpgsqlConnection connection,
        (Guid WorkspaceId, DateOnly From, DateOnly To) span,
        IEnumerable<ulong> visitors,
        CancellationToken cancel
    )
    {
        var history = new TouchHistory(visitors);
        if (history.Visitors > 0)
        {
            history.Put(
                await EachAsync(
                    connection,
                    span,
                    () => new List<(int Visitor, Touch Touch)>(),
                    (found, visits, day) => history.Collect(visits, day, found),
                    cancel
                )
            );
        }

        return history;
    }

    /// <summary>Gives the packed visits of a span to as many takers as there are processors.</summary>
    /// <returns>The takers that got any.</returns>
    private async Task<List<T>> EachAsync<T>(
        NpgsqlConnection connection,
        (Guid WorkspaceId, DateOnly From, DateOnly To) span,
        Func<T> make,
        Action<T, VisitColumns, DateOnly> take,
        CancellationToken cancel
    )
        where T : class
    {
        var parts = Channel.CreateBounded<(DateOnly Day, VisitColumns Visits)>(new BoundedChannelOptions(Waiting) { SingleWriter = true });
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var taking = Enumerable
            .Range(0, Environment.ProcessorCount)
            .Select(_ =>
                Task.Run(
                    async () =>
                    {
                        T? taker = null;
                        try
                        {
                            await foreach (var (day, visits) in parts.Reader.ReadAllAsync(stop.Token))
                            {
                                taker ??= make();
                                take(taker, visits, day);
                            }
                        }
                        catch
                        {
                            await stop.CancelAsync(); // nobody takes what is still to come
                            throw;
                        }

                        return taker;
                    },
                    stop.Token
                )
            )
            .ToList();
        try
        {
            await foreach (var part in segments.ReadAsync(connection, span.WorkspaceId, span.From, span.To, stop.Token))
            {
                await parts.Writer.WriteAsync(part, stop.Token);
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            // A taker failed, and says below why.
        }
        finally
        {
            parts.Writer.Complete();
        }

        return [.. (await Task.WhenAll(taking)).OfType<T>()];
    }

    /// <summary>What the row of some groups is called, in the order of the rows asked for.</summary>
    public static string?[] NamesOf(ArrivalsRequest request, List<RowMap> maps, int[] groups)
    {
        string?[] names = new string?[request.Rows.Count];
        for (int i = 0; i < maps.Count; i++)
        {
            for (int f = 0; f < maps[i].Fields.Count; f++)
            {
                names[maps[i].Fields[f].Place] = maps[i].Names[groups[i]][f];
            }
        }

        return names;
    }
}
