using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Start;

namespace PreciseBeacon.Demo;

/// <summary>The demo's invented people; they exist in demo mode only.</summary>
public static class DemoPeople
{
    public static IReadOnlyList<StartPerson> All { get; } =
    [
        new("Orla Fenwick", "orla@marrowmere.example", Role.Owner),
        new("Tomas Birch", "tomas@marrowmere.example", Role.Editor),
        new("Wren Castell", "wren@marrowmere.example", Role.Viewer),
    ];
}
