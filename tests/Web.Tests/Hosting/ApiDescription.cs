using System.Text.Json.Nodes;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>One call of the interface.</summary>
/// <param name="Query">Names of what may stand in the query.</param>
/// <param name="Body">Schema of its JSON; null where none is sent.</param>
public sealed record Operation(HttpMethod Method, string Path, IReadOnlyList<string> Query, JsonNode? Body)
{
    public override string ToString() => $"{Method} {Path}";
}

/// <summary>The description of the interface that is served, for walking through all of it.</summary>
public sealed class ApiDescription
{
    private const int Deepest = 6;

    private readonly JsonNode _root = JsonNode.Parse(File.ReadAllText(Path.Combine(DatabaseCluster.Root, "src/client/openapi.json")))!;

    /// <summary>Every call under the versioned interface.</summary>
    public IReadOnlyList<Operation> Operations =>
        [
            .. from path in _root["paths"]!.AsObject()
            where path.Key.StartsWith("/api/v1/", StringComparison.Ordinal)
            from call in path.Value!.AsObject()
            select new Operation(
                HttpMethod.Parse(call.Key.ToUpperInvariant()),
                path.Key,
                [
                    .. (call.Value!["parameters"]?.AsArray() ?? [])
                        .Where(p => p!["in"]!.GetValue<string>() == "query")
                        .Select(p => p!["name"]!.GetValue<string>()),
                ],
                call.Value["requestBody"]?["content"]?["application/json"]?["schema"]
            ),
        ];

    /// <summary>Something that fits a schema, with every property there.</summary>
    public JsonNode? Sample(JsonNode? schema, int depth = 0)
    {
        if (schema is null || depth > Deepest)
        {
            return null;
        }

        if (schema["$ref"]?.GetValue<string>() is { } named)
        {
            return Sample(_root["components"]!["schemas"]![named[(named.LastIndexOf('/') + 1)..]], depth + 1);
        }

        if (schema["oneOf"] is JsonArray choices)
        {
            return Sample(choices.FirstOrDefault(c => c!["type"]?.ToString() != "null"), depth);
        }

        if (schema["enum"] is JsonArray words)
        {
            return words.First(w => w is not null)!.DeepClone();
        }

        return TypeOf(schema) switch
        {
            "object" => Object(schema, depth),
            "array" => new JsonArray(Sample(schema["items"], depth + 1)),
            "integer" => JsonValue.Create(1),
            "number" => JsonValue.Create(1.5),
            "boolean" => JsonValue.Create(false),
            _ => schema["format"]?.GetValue<string>() switch
            {
                "uuid" => JsonValue.Create("01234567-89ab-7cde-8f01-23456789abcd"),
                "date" => JsonValue.Create("2026-11-25"),
                "date-time" => JsonValue.Create("2026-11-25T12:00:00Z"),
                _ => JsonValue.Create("fern"),
            },
        };
    }

    private JsonObject Object(JsonNode schema, int depth)
    {
        var made = new JsonObject();
        foreach (var (name, property) in schema["properties"]?.AsObject() ?? [])
        {
            made[name] = Sample(property, depth + 1);
        }

        if (schema["additionalProperties"] is JsonObject values)
        {
            made["utm_source"] = Sample(values, depth + 1);
        }

        return made;
    }

    private static string? TypeOf(JsonNode schema) =>
        schema["type"] switch
        {
            JsonArray several => several.Select(t => t!.GetValue<string>()).FirstOrDefault(t => t != "null"),
            { } one => one.GetValue<string>(),
            null => schema["properties"] is null ? null : "object",
        };
}
