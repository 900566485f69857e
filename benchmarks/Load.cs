using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;

namespace PreciseBeacon.Bench;

/// <summary>Requests by wrk, as many as come through.</summary>
/// <param name="Connections">Connections kept open.</param>
/// <param name="Slugs">Paths asked for in turns; each begins with a slash.</param>
public sealed partial record Load(int Connections, IReadOnlyList<string> Slugs)
{
    private const string Seconds = "4s";

    /// <summary>Asks for some seconds.</summary>
    /// <param name="port">Where.</param>
    /// <param name="host">The Host header.</param>
    /// <returns>Requests per second, and the 99th percentile of their answers in milliseconds.</returns>
    public async Task<(double PerSecond, double P99)> RunAsync(int port, string host)
    {
        string script = Path.GetTempFileName();
        try
        {
            // Every request is written out before, so that wrk itself has next to nothing to do.
            await File.WriteAllTextAsync(
                script,
                $$"""
                local paths = { {{string.Join(',', Slugs.Select(s => $"\"{s}\""))}} }
                local requests = {}
                local at = 0
                function init(args)
                  for i, path in ipairs(paths) do requests[i] = wrk.format("GET", path) end
                end
                function request()
                  at = at % #requests + 1
                  return requests[at]
                end
                """
            );
            using var wrk = Process.Start(
                new ProcessStartInfo(
                    "wrk",
                    [
                        "-t1",
                        "-c",
                        Connections.ToString(CultureInfo.InvariantCulture),
                        "-d",
                        Seconds,
                        "--latency",
                        "-s",
                        script,
                        "-H",
                        $"Host: {host}",
                        "-H",
                        "User-Agent: Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                        $"http://127.0.0.1:{port}/",
                    ]
                )
                {
                    RedirectStandardOutput = true,
                }
            )!;
            string said = await wrk.StandardOutput.ReadToEndAsync();
            await wrk.WaitForExitAsync();
            if (said.Contains("Non-2xx", StringComparison.Ordinal))
            {
                throw new InvalidOperationException(said);
            }

            var p99 = P99().Match(said);
            double milliseconds =
                double.Parse(p99.Groups[1].Value, CultureInfo.InvariantCulture)
                * (
                    p99.Groups[2].Value switch
                    {
                        "us" => 0.001,
                        "s" => 1_000,
                        _ => 1,
                    }
                );
            return (double.Parse(PerSecond().Match(said).Groups[1].Value, CultureInfo.InvariantCulture), milliseconds);
        }
        finally
        {
            File.Delete(script);
        }
    }

    [GeneratedRegex(@"Requests/sec:\s*([0-9.]+)")]
    private static partial Regex PerSecond();

    [GeneratedRegex(@"99%\s*([0-9.]+)(us|ms|s)")]
    private static partial Regex P99();
}
