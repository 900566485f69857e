using System.Diagnostics;
using System.Net;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary><c>./start</c> itself, begun in the background by a script.</summary>
[Trait("Category", "Crash")]
public sealed class StartTests
{
    [Fact]
    public async Task What_dies_comes_back_and_an_interrupt_ends_all_of_it()
    {
        int port = DatabaseCluster.FreePort();
        string data = Directory.CreateTempSubdirectory("beacon-start-").FullName;
        string log = Path.Combine(data, "log");

        // The server's own user has to reach its cluster in there.
        Run("chmod", "755", data);

        // A shell without job control has what it starts with & ignore interrupts (POSIX, Shell Command Language, 2.11).
        using var script = Process.Start(
            new ProcessStartInfo("sh", ["-c", $"./start --empty --port {port} --data {data} > {log} 2>&1 & echo $!"])
            {
                WorkingDirectory = DatabaseCluster.Root,
                RedirectStandardOutput = true,
            }
        )!;
        int start = int.Parse(await script.StandardOutput.ReadLineAsync() ?? "", System.Globalization.CultureInfo.InvariantCulture);
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        try
        {
            // Not before it said so itself: an application that dies until then ends the start.
            await Eventually.Async(
                async () =>
                    await IsReadyAsync() && (await File.ReadAllTextAsync(log)).Contains("Ctrl+C stops all of it", StringComparison.Ordinal),
                TimeSpan.FromMinutes(5)
            );
            int application = Pids($"PreciseBeacon.Web.dll.*:{port};").Single();
            Run("kill", "-9", $"{application}");
            await Eventually.Async(
                async () => await IsReadyAsync() && Pids($"PreciseBeacon.Web.dll.*:{port};").Single() != application,
                TimeSpan.FromMinutes(3)
            );
            Assert.Contains("The database goes on", await File.ReadAllTextAsync(log), StringComparison.Ordinal);
        }
        finally
        {
            Run("kill", "-INT", $"{start}");
            await Eventually.Async(() => Task.FromResult(!Directory.Exists($"/proc/{start}")), TimeSpan.FromMinutes(1));
        }

        Assert.Empty(Pids($"PreciseBeacon.Web.dll.*:{port};"));
        Assert.False(File.Exists(Path.Combine(data, "postgres", "cluster", "postmaster.pid")));
        Directory.Delete(data, recursive: true);

        async Task<bool> IsReadyAsync()
        {
            try
            {
                return (await client.GetAsync("/readyz")).StatusCode == HttpStatusCode.OK;
            }
            catch (HttpRequestException)
            {
                return false;
            }
        }
    }

    private static int[] Pids(string pattern)
    {
        using var list = Process.Start(new ProcessStartInfo("pgrep", ["-f", pattern]) { RedirectStandardOutput = true })!;
        string found = list.StandardOutput.ReadToEnd();
        list.WaitForExit();
        return
        [
            .. found
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(p => int.Parse(p, System.Globalization.CultureInfo.InvariantCulture)),
        ];
    }

    private static void Run(string program, params string[] arguments)
    {
        using var process = Process.Start(program, arguments);
        process.WaitForExit();
    }
}
