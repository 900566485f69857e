using System.Diagnostics;
using System.Runtime.CompilerServices;
using System.Text.Json;

namespace PreciseBeacon.CoreTests.Outside;

/// <summary>Open data from packages of the npm registry, as installed with the interface.</summary>
public static class NpmPackage
{
    private static string Modules([CallerFilePath] string here = "") =>
        Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../../../src/client/node_modules"));

    public static string Read(string file) => File.ReadAllText(Path.Combine(Modules(), file));

    /// <summary>So many browsers, chosen at random as often as they are met.</summary>
    public static IReadOnlyList<string> UserAgents(int count)
    {
        string script = $"const U=require('{Modules()}/user-agents');process.stdout.write(JSON.stringify([...Array({count})].map(()=>new (U.default??U)().toString())))";
        using var node = Process.Start(new ProcessStartInfo("node", ["-e", script]) { RedirectStandardOutput = true })!;
        string answer = node.StandardOutput.ReadToEnd();
        node.WaitForExit();
        return JsonSerializer.Deserialize<List<string>>(answer)!;
    }
}
