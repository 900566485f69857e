using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>The whole application on a real port, over a real database of its own.</summary>
public sealed class BeaconHost : IAsyncDisposable
{
    private readonly string _data;
    private readonly WebApplication _app;
    private readonly bool _ownsDatabase;

    private BeaconHost(WebApplication app, string connection, bool ownsDatabase, string data, int port)
    {
        (_app, Connection, _ownsDatabase, _data, Port) = (app, connection, ownsDatabase, data, port);
        Database = NpgsqlDataSource.Create(connection);
    }

    public const string GardenHost = "garden.localhost:5999";

    public string Connection { get; }

    public int Port { get; }

    public NpgsqlDataSource Database { get; }

    public IServiceProvider Services => _app.Services;

    /// <summary>A directory of the application's own, by its name.</summary>
    public string DataDirectory(string name) => Path.Combine(_data, name);

    public string ShortHost => $"mmr.localhost:{Port}";

    /// <summary>Starts it; with the demo and a few visits, or empty.</summary>
    public static async Task<BeaconHost> StartAsync(
        bool demo = true,
        int visits = 0,
        string? database = null,
        Action<IServiceCollection>? replace = null,
        int? port = null,
        params string[] more
    )
    {
        port ??= DatabaseCluster.FreePort();
        string connection = database ?? await DatabaseCluster.NewDatabaseAsync(demo ? visits : null);
        string data = Directory.CreateTempSubdirectory("beacon-test-").FullName;
        var app = BeaconApp.Build(
            [.. Arguments(connection, data, port.Value, demo, visits), .. more],
            replace,
            PreciseBeacon.Demo.DemoModule.Add
        );
        await app.StartAsync();
        var host = new BeaconHost(app, connection, database is null, data, port.Value);
        await Eventually.Async(async () => (await host.Anonymous().GetAsync("/readyz")).IsSuccessStatusCode);
        return host;
    }

    public static string[] Arguments(string connection, string data, int port, bool demo, int visits) =>
        [
            $"--urls=http://127.0.0.1:{port}",
            $"--contentRoot={Path.Combine(DatabaseCluster.Root, "src/Web")}",
            $"--ConnectionStrings:Beacon={connection}",
            $"--Beacon:PublicUrl=http://127.0.0.1:{port}",
            $"--Beacon:DataDirectory={data}",
            $"--Beacon:Demo={demo}",
            $"--Beacon:DemoVisits={visits}",
            $"--Beacon:DemoShortHost=mmr.localhost:{port}",
            $"--Beacon:DemoSiteHost={GardenHost}",
            "--Logging:LogLevel:Default=Error",
        ];

    /// <summary>A caller without a key, who follows no redirects.</summary>
    public HttpClient Anonymous() => Client(null);

    /// <summary>A caller with a demo key, such as <c>owner</c>.</summary>
    public HttpClient As(string role) => Client($"demo-{role}");

    /// <summary>A caller with any key, or none.</summary>
    public HttpClient Client(string? key)
    {
        var client = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{Port}"),
        };
        if (key is not null)
        {
            client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", key);
        }

        return client;
    }

    /// <summary>Asks the short domain.</summary>
    public async Task<HttpResponseMessage> ClickAsync(
        string path,
        string userAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
        HttpMethod? method = null
    )
    {
        using var client = Anonymous();
        using var request = new HttpRequestMessage(method ?? HttpMethod.Get, path);
        request.Headers.Host = ShortHost;
        request.Headers.TryAddWithoutValidation("User-Agent", userAgent);
        return await client.SendAsync(request);
    }

    /// <summary>Reports from a page of the garden.</summary>
    public async Task<HttpResponseMessage> MeasureAsync(
        object report,
        string origin = $"http://{GardenHost}",
        string userAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1"
    )
    {
        using var client = Anonymous();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/measure")
        {
            Content = new StringContent(
                report as string ?? JsonSerializer.Serialize(report, JsonSerializerOptions.Web),
                System.Text.Encoding.UTF8,
                "text/plain"
            ),
        };
        request.Headers.Add("Origin", origin);
        request.Headers.TryAddWithoutValidation("User-Agent", userAgent);
        return await client.SendAsync(request);
    }

    /// <summary>Saves a link and gives the answer.</summary>
    public async Task<JsonNode> SaveLinkAsync(
        string destination = $"http://{GardenHost}/lantern-nights",
        string? content = null,
        string? placement = "Gate poster"
    )
    {
        using var client = As("editor");
        using var response = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination,
                campaign = "Lantern Nights",
                placement,
                fields = new { utm_content = content ?? Guid.NewGuid().ToString("N")[..8] },
            }
        );
        string text = await response.Content.ReadAsStringAsync();
        Assert.True(response.IsSuccessStatusCode, text);
        return JsonNode.Parse(text)!;
    }

    /// <summary>The first column of the first row.</summary>
    public async Task<T> ScalarAsync<T>(string sql, params object[] values)
    {
        await using var command = Database.CreateCommand(sql);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        return (T)(await command.ExecuteScalarAsync())!;
    }

    public async Task<JsonNode> GetJsonAsync(string path, string role = "owner")
    {
        using var client = As(role);
        return JsonNode.Parse(await client.GetStringAsync(path))!;
    }

    public async ValueTask DisposeAsync()
    {
        await _app.StopAsync();
        await _app.DisposeAsync();
        await Database.DisposeAsync();
        await (_ownsDatabase ? DatabaseCluster.DropAsync(Connection) : Task.CompletedTask);
        Directory.Delete(_data, recursive: true);
    }
}
