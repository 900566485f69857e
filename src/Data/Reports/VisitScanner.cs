using System.Threading.Channels;
using Npgsql;
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
        var parts = Channel.CreateBounded<(DateOnly Day, VisitColumns Visits)>(new BoundedChannelOptions(Waiting) { SingleWriter = true });
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var adding = Enumerable
            .Range(0, Environment.ProcessorCount)
            .Select(_ =>
                Task.Run(
                    async () =>
                    {
                        VisitScan? scan = null;
                        try
                        {
                            await foreach (var (day, visits) in parts.Reader.ReadAllAsync(stop.Token))
                            {
                                scan ??= new VisitScan(maps, request.Currency, request.WithVisitors, request.Named);
                                scan.Add(visits, day);
                            }
                        }
                        catch
                        {
                            await stop.CancelAsync(); // nobody takes what is still to come
                            throw;
                        }

                        return scan;
                    },
                    stop.Token
                )
            )
            .ToList();
        try
        {
            await foreach (var part in segments.ReadAsync(connection, request.WorkspaceId, request.From, request.To, stop.Token))
            {
                await parts.Writer.WriteAsync(part, stop.Token);
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            // Adding up failed, and says below why.
        }
        finally
        {
            parts.Writer.Complete();
        }

        var scans = (await Task.WhenAll(adding)).OfType<VisitScan>().ToList();
        var all = VisitScan.Together(
            scans.Count == 0 ? [new VisitScan(maps, request.Currency, request.WithVisitors, request.Named)] : scans
        );
        foreach (var other in scans.Skip(1))
        {
            other.Dispose();
        }

        return all;
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
