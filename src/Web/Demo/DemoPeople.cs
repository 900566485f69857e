using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.Web.Demo;

/// <summary>The demo's invented people; they exist in demo mode only.</summary>
public static class DemoPeople
{
    public static IReadOnlyList<DemoPerson> All { get; } =
    [
        new("Orla Fenwick", "orla@marrowmere.example", "Owner"),
        new("Tomas Birch", "tomas@marrowmere.example", "Editor"),
        new("Wren Castell", "wren@marrowmere.example", "Viewer"),
    ];
}
