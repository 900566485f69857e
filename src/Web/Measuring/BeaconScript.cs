namespace PreciseBeacon.Web.Measuring;

/// <summary>The measuring script, embedded so that it is served without reading a file.</summary>
public static class BeaconScript
{
    public static string Text { get; } = Read();

    private static string Read()
    {
        using var stream = typeof(BeaconScript).Assembly.GetManifestResourceStream("beacon.js")!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
