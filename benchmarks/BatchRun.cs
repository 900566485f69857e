using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json.Nodes;
using Npgsql;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Bench;

/// <summary>
/// A sheet of 100,000 rows and 8 columns, file in, links and short links stored, file out, beside COPY of the very rows it
/// made into the very tables they are in. Meanwhile the application is asked for its list of placements, as somebody who
/// goes on working does.
/// </summary>
public static class BatchRun
{
    private const int Rows = 100_000;
    private const int Pairs = 3;
    private const int Port = 5_930;

    public static async Task<Report> MeasureAsync(string connection, string root)
    {
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        using var app = Process.Start(
            new ProcessStartInfo(
                "dotnet",
                [
                    Path.Combine(root, "src/Web/bin/Release/net10.0/PreciseBeacon.Web.dll"),
                    $"--urls=http://127.0.0.1:{Port}",
                    $"--ConnectionStrings:Beacon={connection}",
                    $"--Beacon:PublicUrl=http://127.0.0.1:{Port}",
                    $"--Beacon:DataDirectory={data}",
                    "--Beacon:Demo=true",
                    "--Beacon:DemoVisits=0",
                    $"--Beacon:DemoShortHost=mmr.localhost:{Port}",
                    "--Logging:LogLevel:Default=Error",
                ]
            )
            {
                WorkingDirectory = Path.Combine(root, "src/Web"),
            }
        )!;
        try
        {
            using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{Port}"), Timeout = TimeSpan.FromMinutes(5) };
            client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-editor");
            await UpAsync(client);
            await using var database = NpgsqlDataSource.Create(connection);
            var ours = new List<double>();
            var reference = new List<double>();
            var waits = new List<double>();
            double peak = 0;
            for (int pair = -1; pair < Pairs; pair++)
            {
                // The first, smaller one warms both up.
                int rows = pair < 0 ? Rows / 10 : Rows;
                byte[] sheet = Sheet(pair, rows);
                using var done = new CancellationTokenSource();
                var others = WaitsAsync(client, done.Token);
                var watch = Stopwatch.StartNew();
                string id = await RunAsync(client, sheet);
                double seconds = watch.Elapsed.TotalSeconds;
                peak = pair == 0 ? PeakMegabytes(app.Id) : peak;
                await done.CancelAsync();
                var waited = await others;
                double copied = await CopyAsync(database, id, rows);
                if (pair >= 0)
                {
                    ours.Add(seconds);
                    reference.Add(copied);
                    waits.AddRange(waited);
                }
            }

            waits.Sort();
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Most memory of the application: {peak:0} MB with the first sheet, {PeakMegabytes(app.Id):0} MB after all of them, when {2 * Pairs * Rows:#,0} more slugs are held. Another request meanwhile: median {waits[waits.Count / 2]:0} ms, 95 of 100 under {waits[waits.Count * 95 / 100]:0} ms."
                )
            );
            return new Report("A sheet of 100,000 rows beside COPY", "≤ 4", [.. ours], [.. reference], "s");
        }
        finally
        {
            app.Kill();
            await app.WaitForExitAsync();
            Directory.Delete(data, recursive: true);
        }
    }

    private static byte[] Sheet(int pair, int rows)
    {
        var sheet = new StringBuilder("No,Landing page,Content,Word,Shelf,Bed,Gardener,Remark\r\n");
        for (int i = 0; i < rows; i++)
        {
            sheet.Append(
                CultureInfo.InvariantCulture,
                $"{i:D6},http://garden.localhost:5081/shop?item={i},label {pair}-{i},fern {i % 97},{i % 40},bed {i % 12},Gardener {i % 7},\"first, of {i % 1_000}\"\r\n"
            );
        }

        return Encoding.UTF8.GetBytes(sheet.ToString());
    }

    private static async Task<string> RunAsync(HttpClient client, byte[] sheet)
    {
        const string Recipe =
            """{"destination":{"column":"Landing page"},"placement":"Members’ mail","campaign":"School Visits","fields":{"content":{"column":"Content"},"term":{"column":"Word"}},"output":{"column":"Landing page"},"shorten":true}""";
        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(sheet), "file", "sheet.csv" },
            { new StringContent(Recipe), "recipe" },
        };
        using var made = await client.PostAsync("/api/v1/batches", form);
        made.EnsureSuccessStatusCode();
        string id = JsonNode.Parse(await made.Content.ReadAsStringAsync())!["id"]!.GetValue<string>();
        while (true)
        {
            var batch = JsonNode.Parse(await client.GetStringAsync($"/api/v1/batches/{id}"))!;
            if (batch["state"]!.GetValue<string>() != "running")
            {
                _ =
                    batch["stopped"]!.GetValue<int>() == 0
                        ? 0
                        : throw new InvalidOperationException($"Rows were stopped: {batch["notices"]}");
                break;
            }

            await Task.Delay(100);
        }

        await client.GetByteArrayAsync($"/api/v1/batches/{id}/result.csv");
        return id;
    }

    /// <summary>Takes the rows out of their tables, and times putting them back.</summary>
    private static async Task<double> CopyAsync(NpgsqlDataSource database, string id, int rows)
    {
        (string Table, string Columns, string Mine)[] tables =
        [
            ("links", "", $"id in (select link_id from batch_row where batch_id = '{id}')"),
            ("short_links", "", $"link_id in (select link_id from batch_row where batch_id = '{id}')"),
            ("batch_row", "", $"batch_id = '{id}'"),
        ];
        await using var connection = await database.OpenConnectionAsync();
        var kept = new List<byte[]>();
        foreach (var (table, _, mine) in tables)
        {
            using var content = new MemoryStream();
            await using var copy = await connection.BeginRawBinaryCopyAsync(
                $"copy (select * from {table} where {mine}) to stdout (format binary)"
            );
            await copy.CopyToAsync(content);
            kept.Add(content.ToArray());
        }

        await DoAsync(
            connection,
            $"create temp table mine as select link_id from batch_row where batch_id = '{id}'; delete from batch_row where batch_id = '{id}'; delete from short_links where link_id in (select link_id from mine); delete from links where id in (select link_id from mine); drop table mine; vacuum links, short_links, batch_row".Split(
                "; "
            )
        );
        var watch = Stopwatch.StartNew();
        await using (var transaction = await connection.BeginTransactionAsync())
        {
            for (int i = 0; i < tables.Length; i++)
            {
                await using var copy = await connection.BeginRawBinaryCopyAsync($"copy {tables[i].Table} from stdin (format binary)");
                await copy.WriteAsync(kept[i]);
            }

            await transaction.CommitAsync();
        }

        double seconds = watch.Elapsed.TotalSeconds;
        await using var count = new NpgsqlCommand(
            $"select count(*) from batch_row r join links l on l.id = r.link_id where batch_id = '{id}'",
            connection
        );
        return (long)(await count.ExecuteScalarAsync())! == rows
            ? seconds
            : throw new InvalidOperationException("The rows did not come back.");
    }

    private static async Task DoAsync(NpgsqlConnection connection, IEnumerable<string> statements)
    {
        foreach (string statement in statements)
        {
            await using var command = new NpgsqlCommand(statement, connection) { CommandTimeout = 600 };
            await command.ExecuteNonQueryAsync();
        }
    }

    private static async Task<List<double>> WaitsAsync(HttpClient client, CancellationToken done)
    {
        var waits = new List<double>();
        while (!done.IsCancellationRequested)
        {
            var watch = Stopwatch.StartNew();
            await client.GetStringAsync("/api/v1/placements", CancellationToken.None);
            waits.Add(watch.Elapsed.TotalMilliseconds);
            await Task.Delay(250, CancellationToken.None);
        }

        return waits;
    }

    internal static async Task UpAsync(HttpClient client)
    {
        while (true)
        {
            try
            {
                if ((await client.GetAsync("/readyz")).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // It is not listening yet.
            }

            await Task.Delay(200);
        }
    }

    /// <summary>The high-water mark of the memory that is resident (proc(5), VmHWM).</summary>
    private static double PeakMegabytes(int process) =>
        double.Parse(
            File.ReadLines($"/proc/{process}/status")
                .First(l => l.StartsWith("VmHWM", StringComparison.Ordinal))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
            CultureInfo.InvariantCulture
        ) / 1024;
}
