namespace PreciseBeacon.Core.Traffic;

/// <summary>Where a network address is, as far as a file says.</summary>
/// <param name="Country">ISO 3166-1 alpha-2 in capitals; empty where it is not known.</param>
/// <param name="Region">The largest part of the country, in English; empty where the file has none.</param>
/// <param name="City">The town, in English; empty where the file has none.</param>
public readonly record struct Whereabouts(string Country, string Region, string City)
{
    /// <summary>Nothing is known.</summary>
    public static Whereabouts Unknown { get; } = new("", "", "");
}
