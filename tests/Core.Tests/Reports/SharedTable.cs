using System.Text.Json;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>Tables the interface is tested by too.</summary>
internal static class SharedTable
{
    /// <summary>The table of a file.</summary>
    public static JsonElement Read(string file)
    {
        using var stream = typeof(SharedTable).Assembly.GetManifestResourceStream(file)!;
        return JsonDocument.Parse(stream).RootElement;
    }
}
