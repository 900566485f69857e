using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Npgsql;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>Kills the process and PostgreSQL for real in the middle of a run: it goes on by itself, and no row is made twice.</summary>
[Trait("Category", "Crash")]
public sealed class BatchCrashTests : IAsyncLifetime
{
    private const int Rows = 12_000;
    private const string Recipe =
        """{"destination":{"column":"Page"},"placement":"Members’ mail","campaign":"School Visits","fields":{"content":{"column":"Content"}},"shorten":true}""";

    private readonly string _data = Directory.CreateTempSubdirectory("beacon-crash-").FullName;
    private readonly int _port = DatabaseCluster.FreePort();
    private OwnCluster _cluster = null!;

    public async Task InitializeAsync() => _cluster = await OwnCluster.StartAsync();

    public async Task DisposeAsync()
    {
        await _cluster.DisposeAsync();
        Directory.Delete(_data, recursive: true);
    }

    [Fact]
    public async Task A_run_goes_on_after_the_process_and_the_database_were_killed()
    {
        var app = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port);
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{_port}") };
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", "demo-editor");
        string path = $"/api/v1/batches/{await BringAsync(client)}";
        await Eventually.Async(async () => await DoneAsync(client, path) >= 2_000);
        await app.KillAsync();
        await app.DisposeAsync();
        app = await BeaconProcess.StartAsync(_cluster.Connection, _data, _port);
        await Eventually.Async(async () => await DoneAsync(client, path) >= 5_000);

        _cluster.Stop();
        _cluster.Start();
        await Eventually.Async(async () => await DoneAsync(client, path) == Rows);
        await using var connection = new NpgsqlConnection(_cluster.Connection);
        await connection.OpenAsync();
        await using var count = new NpgsqlCommand(
            """
            select (select count(*) from links where destination like '%/shop?row=%'), (select count(distinct link_id) from batch_row), (select count(*) from batch_row where link_id is null),
                (select made from batch_runs), (select count(*) from short_links s join links l on l.id = s.link_id where l.destination like '%/shop?row=%')
            """,
            connection
        );
        await using var reader = await count.ExecuteReaderAsync();
        await reader.ReadAsync();
        Assert.Equal(
            (Rows, Rows, 0L, Rows, 2L * Rows),
            (reader.GetInt64(0), reader.GetInt64(1), reader.GetInt64(2), reader.GetInt32(3), reader.GetInt64(4))
        );
        await app.DisposeAsync();
    }

    private static async Task<string> BringAsync(HttpClient client)
    {
        var sheet = new StringBuilder("Page,Content\r\n");
        for (int i = 0; i < Rows; i++)
        {
            sheet.Append(System.Globalization.CultureInfo.InvariantCulture, $"http://{BeaconHost.GardenHost}/shop?row={i},row_{i}\r\n");
        }

        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(Encoding.UTF8.GetBytes(sheet.ToString())), "file", "rows.csv" },
            { new StringContent(Recipe), "recipe" },
        };
        using var made = await client.PostAsync("/api/v1/batches", form);
        return JsonNode.Parse(await made.Content.ReadAsStringAsync()).Text("id");
    }

    /// <summary>Rows that are worked through; none are known while nobody answers.</summary>
    private static async Task<int> DoneAsync(HttpClient client, string path)
    {
        try
        {
            using var answer = await client.GetAsync(path);
            return answer.IsSuccessStatusCode ? JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Whole("done") : -1;
        }
        catch (HttpRequestException)
        {
            return -1;
        }
    }
}
