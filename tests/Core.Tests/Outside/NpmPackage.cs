using System.Runtime.CompilerServices;
using System.Text.Json;

namespace PreciseBeacon.CoreTests.Outside;

/// <summary>Open data from packages of the npm registry, as installed with the interface.</summary>
public static class NpmPackage
{
    private static string Modules([CallerFilePath] string here = "") =>
        Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../../../src/client/node_modules"));

    public static string Read(string file) => File.ReadAllText(Path.Combine(Modules(), file));

    /// <summary>Browsers as they are met, each with its share of all.</summary>
    public static IReadOnlyList<(string UserAgent, double Share)> UserAgents()
    {
        using var data = JsonDocument.Parse(Read("user-agents/dist/user-agents.json"));
        return
        [
            .. data
                .RootElement.EnumerateArray()
                .Select(u => (u.GetProperty("userAgent").GetString()!, u.GetProperty("weight").GetDouble())),
        ];
    }
}
