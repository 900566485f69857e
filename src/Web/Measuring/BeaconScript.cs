using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;

namespace PreciseBeacon.Web.Measuring;

/// <summary>A version of the measuring script, embedded so that it is served without reading a file.</summary>
/// <param name="Version">Its number; a later one is newer.</param>
/// <param name="Text">What it says. It never changes once it is released: pages name its hash.</param>
public sealed record BeaconScript(int Version, string Text)
{
    private const string Folder = "scripts/";

    /// <summary>Every version there was, the oldest first.</summary>
    public static ImmutableArray<BeaconScript> Released { get; } =
    [
        .. typeof(BeaconScript)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith(Folder, StringComparison.Ordinal))
            .Select(n => new BeaconScript(
                int.Parse(n[Folder.Length..^".js".Length], System.Globalization.CultureInfo.InvariantCulture),
                Read(n)
            ))
            .OrderBy(s => s.Version),
    ];

    /// <summary>The one that is served at the plain address.</summary>
    public static BeaconScript Newest => Released[^1];

    /// <summary>What a page writes to have a browser refuse anything else (W3C Subresource Integrity).</summary>
    public string Integrity { get; } = $"sha384-{Convert.ToBase64String(SHA384.HashData(Encoding.UTF8.GetBytes(Text)))}";

    private static string Read(string name)
    {
        using var stream = typeof(BeaconScript).Assembly.GetManifestResourceStream(name)!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
