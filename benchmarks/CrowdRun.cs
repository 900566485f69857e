using System.Diagnostics;
using System.Globalization;
using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Bench;

/// <summary>
/// A million hits with 100,000 distinct user agents, from the spool until they are worked out, beside the same million with
/// 100 agents: the same people at the same addresses on the same links, who only say other things of their browsers.
/// </summary>
public static class CrowdRun
{
    private const int Pairs = 3;
    private const int Hits = 1_000_000;
    private const int People = 200_000;
    private const int ManyAgents = 100_000;
    private const int FewAgents = 100;

    /// <summary>A spool that holds all of them at once.</summary>
    private const int Segments = 64;

    /// <summary>Measures.</summary>
    /// <param name="connection">An empty database.</param>
    /// <param name="root">The project's root.</param>
    public static async Task<Report> MeasureAsync(string connection, string root)
    {
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        try
        {
            await DemoDatabase.MakeAsync(connection, root, data);
            await using var database = BeaconDatabase.Open(connection);
            var ours = new List<double>();
            var reference = new List<double>();
            for (int pair = 0; pair < Pairs; pair++)
            {
                reference.Add(await DrainAsync(database, data, FewAgents));
                ours.Add(await DrainAsync(database, data, ManyAgents));
            }

            return new Report(
                "A million hits with 100,000 distinct user agents until worked out",
                "≥ 0.7 of the rate with 100",
                ours,
                reference,
                "hits/s"
            );
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    /// <summary>Hits a second from the first moved to the last worked out.</summary>
    private static async Task<double> DrainAsync(NpgsqlDataSource database, string data, int agents)
    {
        await RunAsync(
            database,
            "truncate hit, click, click_day, click_month, hit_due, visit_due, link_use_due; update links set uses = 0, last_used_at = null where uses > 0; vacuum analyze links"
        );
        var (workspace, links) = await LinksAsync(database);
        using var spool = Spool.Create(Path.Combine(data, "spool"), new SpoolOptions(MostSegments: Segments));
        Fill(spool, workspace, links, agents);

        var mover = new SpoolDrain(database);
        var clicks = new ClickAggregator(database);
        var visits = new VisitAggregator(database);
        var watch = Stopwatch.StartNew();

        // Moved and worked out side by side, as the application does it, but without its rests.
        bool moved = false;
        var moving = Task.Run(async () =>
        {
            while (await mover.MoveAsync(spool, CancellationToken.None) > 0) { }

            Volatile.Write(ref moved, true);
        });
        while (true)
        {
            bool last = Volatile.Read(ref moved);
            if (await clicks.WorkOutAsync(CancellationToken.None) + await visits.WorkOutAsync(CancellationToken.None) == 0)
            {
                if (last)
                {
                    break;
                }

                await Task.Delay(5);
            }
        }

        await moving;
        watch.Stop();
        await using var count = database.CreateCommand("select count(*) from click");
        long worked = (long)(await count.ExecuteScalarAsync())!;
        spool.Delete();
        Console.Error.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{agents:N0} agents: {watch.Elapsed.TotalSeconds:0.0} s"));
        return worked == Hits
            ? Hits / watch.Elapsed.TotalSeconds
            : throw new InvalidOperationException($"Only {worked:N0} hits were worked out.");
    }

    private static void Fill(Spool spool, Guid workspace, Guid[] links, int agents)
    {
        var random = new Random(7);
        byte[] salt = new byte[VisitorHash.SaltLength];
        random.NextBytes(salt);
        var ids = new EventIds(7);
        var start = new DateTimeOffset(2026, 6, 1, 6, 0, 0, TimeSpan.Zero);
        for (int i = 0; i < Hits; i++)
        {
            int person = random.Next(People);
            string agent =
                $"Mozilla/5.0 (Phone; Mobile; Build {person % agents}) Fernleaf/{person % agents % 40}.{person % agents % 7} (plain and simple)";
            var at = start.AddMilliseconds(i * 60L);
            var hit = new RawHit(
                ids.Next(at),
                workspace,
                at,
                links[random.Next(links.Length)],
                VisitorHash.OfAddress(salt, workspace, BitConverter.GetBytes(person), agent),
                null,
                HitFlags.None,
                agent,
                i % 3 == 0 ? "https://nattervine.example/" : "",
                "IE"
            );
            if (!EventRecord.TryAppend(spool, hit))
            {
                throw new InvalidOperationException("The spool is too small for this run.");
            }
        }
    }

    private static async Task<(Guid Workspace, Guid[] Links)> LinksAsync(NpgsqlDataSource database)
    {
        await using var command = database.CreateCommand("select workspace_id, id from short_links order by id");
        await using var reader = await command.ExecuteReaderAsync();
        var links = new List<Guid>();
        var workspace = Guid.Empty;
        while (await reader.ReadAsync())
        {
            (workspace, _) = (reader.GetGuid(0), 0);
            links.Add(reader.GetGuid(1));
        }

        return (workspace, [.. links]);
    }

    private static async Task RunAsync(NpgsqlDataSource database, string sql)
    {
        foreach (string one in sql.Split(';'))
        {
            await using var command = database.CreateCommand(one);
            command.CommandTimeout = 0;
            await command.ExecuteNonQueryAsync();
        }
    }
}
