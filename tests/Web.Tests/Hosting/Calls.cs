using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>Short ways to call the interface and read its JSON.</summary>
public static class Calls
{
    public static async Task<(HttpStatusCode Status, JsonNode? Json)> CallAsync(
        this HttpClient client,
        HttpMethod method,
        string path,
        object? body = null
    )
    {
        using var request = new HttpRequestMessage(method, path) { Content = body is null ? null : JsonContent.Create(body) };
        using var response = await client.SendAsync(request);
        string text = await response.Content.ReadAsStringAsync();
        return (response.StatusCode, text.Length == 0 ? null : JsonNode.Parse(text));
    }

    /// <summary>Calls and insists on success.</summary>
    public static async Task<JsonNode> DoAsync(this HttpClient client, HttpMethod method, string path, object? body = null)
    {
        var (status, json) = await client.CallAsync(method, path, body);
        Assert.True((int)status is >= 200 and < 300, $"{method} {path}: {(int)status} {json}");
        return json ?? new JsonObject();
    }

    public static string Text(this JsonNode? node, string name) => node![name]!.GetValue<string>();

    public static int Whole(this JsonNode? node, string name) => node![name]!.GetValue<int>();

    /// <summary>The rule and the sentence of a refusal.</summary>
    public static (string Rule, string Says) Refusal(this JsonNode? node) => (node.Text("rule"), node.Text("detail"));
}
