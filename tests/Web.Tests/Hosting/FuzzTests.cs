using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using FsCheck;
using FsCheck.Fluent;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>
/// Ten thousand requests generated from the description of the interface: paths, queries, headers and bodies that fit it
/// nearly, half, or not at all. Nothing breaks. The seed is told, so that a failure can be run again.
/// </summary>
public sealed class FuzzTests
{
    private const int Requests = 10_000;
    private const int AtOnce = 4;
    private const int Seed = 20_261_128;

    /// <summary>They reach for hosts outside, and wait for answers.</summary>
    private static readonly string[] Outside =
    [
        "/api/v1/link-reviews/site",
        "/api/v1/sites/{id}/read-sitemap",
        "/api/v1/short-domains/{id}/check",
    ];

    /// <summary>Values that have broken programs before: ends of ranges, signs of other languages, half characters, other types.</summary>
    private static readonly Gen<JsonNode?> Odd = Gen.OneOf(
        Gen.Constant<JsonNode?>(null),
        Gen.Elements<string>(
                "",
                " ",
                "\0",
                "\uFFFE\u202E",
                "𐐷é",
                "../..",
                "%00",
                "' or 1=1",
                "{{x}}",
                "@{click.country}",
                "NaN",
                "-0",
                "1e400",
                "2026-02-30",
                "24:00",
                "http://[::1",
                "https://a:b@c.example/",
                "//",
                "javascript:0",
                "=cmd|' /C calc'!A0"
            )
            .Select(JsonNode? (s) => JsonValue.Create(s)),
        ArbMap.Default.GeneratorFor<string>().Select(JsonNode? (s) => JsonValue.Create(Whole(s))),
        ArbMap.Default.GeneratorFor<int>().Select(JsonNode? (i) => JsonValue.Create(i)),
        Gen.Elements(long.MaxValue, long.MinValue, int.MinValue, 0L).Select(JsonNode? (l) => JsonValue.Create(l)),
        Gen.Elements(1e308, -1e-308, 0.1).Select(JsonNode? (d) => JsonValue.Create(d)),
        ArbMap.Default.GeneratorFor<Guid>().Select(JsonNode? (g) => JsonValue.Create(g.ToString())),
        Gen.Elements(true, false).Select(JsonNode? (b) => JsonValue.Create(b)),
        Gen.Choose(0, 30).Select(JsonNode? (n) => new JsonArray([.. Enumerable.Range(0, n).Select(i => (JsonNode?)JsonValue.Create(i))])),
        Gen.Constant<JsonNode?>(new JsonObject { ["a"] = new JsonObject() })
    );

    private static readonly (string Name, string Value)[] Headers =
    [
        ("Idempotency-Key", new string('k', 300)),
        ("Idempotency-Key", "é"),
        ("Content-Type", "application/xml"),
        ("Content-Type", "application/json; charset=utf-16"),
        ("Content-Type", "multipart/form-data"),
        ("Accept", "*/*;q=9"),
        ("If-None-Match", "\""),
        ("Range", "bytes=9-1"),
        ("Sec-Fetch-Site", "cross-site"),
        ("Origin", "null"),
        ("X-Forwarded-For", "\u00ff"),
        ("Authorization", "Bearer "),
        ("Authorization", "Basic Og=="),
        ("Cookie", "beacon=%00; beacon-device=x; ="),
        ("Host", "a b"),
        ("Content-Encoding", "gzip"),
        ("Expect", "200-maybe"),
        ("Accept-Language", "xx-" + new string('y', 500)),
    ];

    [Fact]
    public async Task Ten_thousand_generated_requests_never_break_anything()
    {
        await using var host = await BeaconHost.StartAsync();
        await Belongings.MakeAsync(host);
        var description = new ApiDescription();
        var operations = description.Operations.Where(o => !Outside.Contains(o.Path)).ToList();
        var paths = new Dictionary<Operation, string>();
        foreach (var operation in operations)
        {
            paths[operation] = await Belongings.PathAsync(host, operation);
        }

        // Generated first and one after the other, so that a seed gives the same requests every time.
        var requests = (
            from operation in Gen.Elements<Operation>(operations)
            from request in OneOf(operation, paths[operation], description)
            select request
        )
            .Sample(50, new Rnd(Seed), Requests)
            .ToList();
        var broken = new ConcurrentBag<string>();
        using var owner = new HttpClient(
            new SocketsHttpHandler { AllowAutoRedirect = false, RequestHeaderEncodingSelector = (_, _) => Encoding.Latin1 }
        )
        {
            BaseAddress = new Uri($"http://127.0.0.1:{host.Port}"),
        };
        await Parallel.ForEachAsync(requests, new ParallelOptions { MaxDegreeOfParallelism = AtOnce }, async (one, cancel) =>
        {
            try
            {
                using var request = Message(one, host.Port);
                using var answer = await owner.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
                if (answer.Content.Headers.ContentType?.MediaType != "text/event-stream")
                {
                    // A stream goes on for minutes; everything else is read to its end.
                    await answer.Content.LoadIntoBufferAsync(cancel);
                }

                if (answer.StatusCode >= HttpStatusCode.InternalServerError)
                {
                    broken.Add($"{(int)answer.StatusCode} {one} {await answer.Content.ReadAsStringAsync(cancel)}");
                }
            }
            catch (TaskCanceledException) when (!cancel.IsCancellationRequested)
            {
                broken.Add($"no answer in {owner.Timeout.TotalSeconds} s: {one}");
            }
            catch (Exception unsendable)
                when (unsendable is FormatException or UriFormatException or NotSupportedException or InvalidOperationException)
            {
                // What the client itself does not send can't break a server.
            }
        });
        Assert.True(broken.IsEmpty, $"Seed {Seed}, {broken.Count} of {Requests}:\n{string.Join('\n', broken.Take(20))}");
        using var well = host.As("owner");
        Assert.Equal(HttpStatusCode.OK, (await well.GetAsync("/readyz")).StatusCode);
    }

    private static Gen<Made> OneOf(Operation operation, string path, ApiDescription description) =>
        from query in operation.Query.Count == 0 ? Gen.Constant("") : Gen.SubListOf(operation.Query.ToArray()).SelectMany(QueryOf)
        from tail in Gen.Frequency(
            (8, Gen.Constant("")),
            (1, Gen.Elements<string>("/", "//", "/..%2f", "%20", ".json", "/%E2%82", "?", ";x=1"))
        )
        from body in operation.Method == HttpMethod.Get || operation.Method == HttpMethod.Delete
            ? Gen.Constant<string?>(null)
            : BodyOf(description.Sample(operation.Body))
        from header in Gen.Frequency(
            (3, Gen.Constant<(string, string)?>(null)),
            (1, Gen.Elements<(string, string)>(Headers).Select((string, string)? (h) => h))
        )
        from role in Gen.Frequency((6, Gen.Constant("owner")), (1, Gen.Elements<string>("editor", "viewer", "shortener", "nobody")))
        select new Made(operation.Method, path + tail + (query.Length == 0 ? "" : "?" + query), body, header, role);

    private static Gen<string> QueryOf(IList<string> names) =>
        names.Count == 0
            ? Gen.Constant("")
            : Gen.CollectToList(names, name => Odd.Select(value => $"{name}={Uri.EscapeDataString(Whole(value?.ToString() ?? ""))}"))
                .Select(parts => string.Join('&', parts));

    /// <summary>A body that fits, with some of its parts replaced; or text that is no JSON, or is cut off.</summary>
    private static Gen<string?> BodyOf(JsonNode? sample) =>
        Gen.Frequency(
            (8, Changed(sample).Select(string? (node) => node?.ToJsonString() ?? "null")),
            (1, Odd.Select(string? (node) => node?.ToJsonString() ?? "")),
            (
                1,
                Changed(sample)
                    .SelectMany(node =>
                        (node?.ToJsonString() ?? "x") is var text
                            ? Gen.Choose(0, text.Length).Select(string? (at) => text[..at])
                            : Gen.Constant<string?>(null)
                    )
            )
        );

    private static Gen<JsonNode?> Changed(JsonNode? node) =>
        node switch
        {
            JsonObject o => Gen.CollectToList(o.ToList(), p =>
                    Gen.Frequency((5, Changed(p.Value)), (2, Odd)).Select(v => (p.Key, v?.DeepClone()))
                )
                .Select(JsonNode? (parts) => new JsonObject(parts.Select(p => KeyValuePair.Create(p.Key, p.Item2)))),
            JsonArray { Count: > 0 } a => Gen.Choose(0, 3)
                .SelectMany(n =>
                    Gen.CollectToList(Enumerable.Range(0, n), _ => Gen.Frequency((5, Changed(a[0])), (1, Odd)).Select(v => v?.DeepClone()))
                )
                .Select(JsonNode? (items) => new JsonArray([.. items])),
            null => Odd,
            _ => Gen.Frequency((2, Gen.Constant<JsonNode?>(node.DeepClone())), (1, Odd)),
        };

    private static HttpRequestMessage Message(Made made, int port)
    {
        var request = new HttpRequestMessage(
            made.Method,
            new Uri($"http://127.0.0.1:{port}{made.Path}", new UriCreationOptions { DangerousDisablePathAndQueryCanonicalization = true })
        );
        if (made.Body is not null)
        {
            request.Content = new StringContent(made.Body, Encoding.UTF8, "application/json");
        }

        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", $"demo-{made.Role}");
        if (made.Header is var (name, value))
        {
            request.Headers.Remove(name);
            request.Content?.Headers.Remove(name);
            if (!request.Headers.TryAddWithoutValidation(name, value))
            {
                request.Content?.Headers.TryAddWithoutValidation(name, value);
            }
        }

        return request;
    }

    /// <summary>Half characters can't be written as UTF-8.</summary>
    private static string Whole(string? text) => string.Concat((text ?? "").EnumerateRunes().Select(r => r.ToString()));

    private sealed record Made(HttpMethod Method, string Path, string? Body, (string Name, string Value)? Header, string Role)
    {
        public override string ToString() =>
            $"{Method} {(Path.Length > 300 ? Path[..300] : Path)} as {Role} [{Header}] {(Body is { Length: > 300 } ? Body[..300] : Body)}";
    }
}
