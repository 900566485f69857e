using System.Collections.Concurrent;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>Every call of the interface, with everything somebody could send it: it never breaks, and says what is wrong in a sentence.</summary>
public sealed class BadInputTests
{
    private const int Long = 100_000;
    private const int AtOnce = 4;

    /// <summary>They reach for hosts outside, and wait for answers.</summary>
    private static readonly string[] Outside =
    [
        "/api/v1/link-reviews/site",
        "/api/v1/sites/{id}/read-sitemap",
        "/api/v1/short-domains/{id}/check",
    ];

    private static readonly JsonNode?[] Worse =
    [
        null,
        JsonValue.Create(""),
        JsonValue.Create(" \t\r\n"),
        JsonValue.Create("\0"),
        JsonValue.Create("a\0b"),
        JsonValue.Create("\u202Efern\uFFFF"),
        JsonValue.Create("=1+1"),
        JsonValue.Create("<script>alert(1)</script>"),
        JsonValue.Create("@{"),
        JsonValue.Create("{{{"),
        JsonValue.Create("'; --"),
        JsonValue.Create("%00%zz"),
        JsonValue.Create(new string('x', Long)),
        JsonValue.Create(-1),
        JsonValue.Create(int.MaxValue),
        JsonValue.Create(1e300),
        JsonValue.Create(true),
        new JsonArray(),
        new JsonArray((JsonNode?)null),
        new JsonObject(),
        JsonValue.Create(Guid.Empty.ToString()),
        JsonValue.Create("9999-12-31"),
        JsonValue.Create("0001-01-01T00:00:00Z"),
    ];

    private static readonly string[] Bodies =
    [
        "",
        " ",
        "{",
        "null",
        "[]",
        "[null]",
        "{}",
        "\"fern\"",
        "7",
        "{\"a\":",
        "\uFEFF{}",
        new string('[', 500),
        "{\"\\ud800\":1}",
        "{\"name\":\"\\ud800\",\"destination\":\"\\ud800\",\"host\":\"\\ud800\"}",
    ];

    private static readonly string[] QueryValues =
    [
        "",
        "%00",
        "-1",
        "99999999999",
        "fern",
        "%F0%9F",
        "%E2%80%AE",
        "'",
        "1e9",
        "null",
        "2026-13-45",
        new string('x', 3_000),
    ];

    [Fact]
    public async Task No_call_breaks_whatever_it_is_sent()
    {
        var faults = new Faults();
        await using var host = await BeaconHost.StartAsync(replace: s => s.AddSingleton<ILoggerProvider>(faults));
        await Belongings.MakeAsync(host);
        var description = new ApiDescription();
        var broken = new ConcurrentBag<string>();
        using var client = host.As("owner");

        // Calls that take things away come last, so that the others have something to meet.
        foreach (
            var call in description
                .Operations.Where(o => !Outside.Contains(o.Path))
                .OrderBy(o => o.Method == HttpMethod.Delete || o.Path.EndsWith("/revoke", StringComparison.Ordinal))
        )
        {
            string path = await Belongings.PathAsync(host, call);
            var tries = QueriesOf(call).Select(query => (Path: $"{path}?{query}", Body: (string?)null, What: query));
            if (call.Method != HttpMethod.Get && call.Method != HttpMethod.Delete)
            {
                tries = tries
                    .Concat(Bodies.Select(body => (path, (string?)body, body.Length > 40 ? body[..40] : body)))
                    .Concat(Worsened(description.Sample(call.Body)).Select(w => (path, (string?)w.Body, w.Where)));
            }

            await Parallel.ForEachAsync(tries, new ParallelOptions { MaxDegreeOfParallelism = AtOnce }, async (one, _) =>
                await TryAsync(call, one.Path, one.Body, one.What)
            );
        }

        Assert.True(broken.IsEmpty, $"{broken.Count} calls:\n{string.Join('\n', broken)}");

        async Task TryAsync(Operation call, string path, string? body, string what)
        {
            using var request = new HttpRequestMessage(call.Method, path);
            request.Content = body is null ? null : new StringContent(body, Encoding.UTF8, "application/json");
            using var answer = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
            string text = (int)answer.StatusCode < 400 ? "" : await answer.Content.ReadAsStringAsync();
            if ((int)answer.StatusCode >= 500 || ((int)answer.StatusCode >= 400 && !IsSentence(call, answer.StatusCode, text)))
            {
                broken.Add($"{call} [{what}] {(int)answer.StatusCode} {faults.Take() ?? (text.Length > 300 ? text[..300] : text)}");
            }
        }
    }

    /// <summary>Keeps the last exception nobody caught, so that a failure says what broke.</summary>
    private sealed class Faults : ILoggerProvider, ILogger
    {
        private string? _last;

        public string? Take() => Interlocked.Exchange(ref _last, null);

        public ILogger CreateLogger(string categoryName) => this;

        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(LogLevel logLevel) => logLevel >= LogLevel.Error;

        public void Log<TState>(
            LogLevel logLevel,
            EventId eventId,
            TState state,
            Exception? exception,
            Func<TState, Exception?, string> formatter
        ) =>
            _last = exception is null
                ? _last
                : $"{exception.GetType().Name}: {exception.Message} {exception.StackTrace?.Split('\n').FirstOrDefault(l => l.Contains("PreciseBeacon", StringComparison.Ordinal))?.Trim()}".ReplaceLineEndings(
                    " "
                );

        public void Dispose() { }
    }

    private static IEnumerable<string> QueriesOf(Operation call) =>
        call.Query.Count == 0 ? [""] : call.Query.SelectMany(q => QueryValues.Select(v => $"{q}={v}"));

    /// <summary>The body with each of its parts in turn made worse.</summary>
    private static IEnumerable<(string Where, string Body)> Worsened(JsonNode? sample)
    {
        if (sample is null)
        {
            yield break;
        }

        yield return ("as it should be", sample.ToJsonString());
        foreach (string where in PathsIn(sample, ""))
        {
            for (int i = 0; i < Worse.Length; i++)
            {
                var copy = sample.DeepClone();
                Put(copy, where, Worse[i]?.DeepClone());
                string value = Worse[i]?.ToJsonString() ?? "null";
                yield return ($"{where} = {(value.Length > 40 ? value[..40] : value)}", copy.ToJsonString());
            }
        }
    }

    private static IEnumerable<string> PathsIn(JsonNode node, string at) =>
        node switch
        {
            JsonObject o => o.SelectMany(p =>
                p.Value is null ? [$"{at}/{p.Key}"] : PathsIn(p.Value, $"{at}/{p.Key}").Prepend($"{at}/{p.Key}")
            ),
            JsonArray { Count: > 0 } a when a[0] is { } first => PathsIn(first, $"{at}/0").Prepend($"{at}/0"),
            _ => [],
        };

    private static void Put(JsonNode root, string where, JsonNode? value)
    {
        string[] steps = where[1..].Split('/');
        var node = root;
        foreach (string step in steps[..^1])
        {
            node = node is JsonArray ? node[0]! : node[step]!;
        }

        if (node is JsonArray list)
        {
            list[0] = value;
        }
        else
        {
            node[steps[^1]] = value;
        }
    }

    private static bool IsSentence(Operation call, HttpStatusCode status, string text)
    {
        if (call.Path == "/api/v1/shorten")
        {
            return text.Length > 20;
        }

        try
        {
            string? detail = JsonNode.Parse(text)?["detail"]?.GetValue<string>();
            return detail is { Length: > 10 }
                && detail[^1] is '.' or ')'
                && !detail.Contains("PreciseBeacon", StringComparison.Ordinal)
                && !detail.Contains("System.", StringComparison.Ordinal);
        }
        catch (JsonException)
        {
            return false;
        }
    }
}
