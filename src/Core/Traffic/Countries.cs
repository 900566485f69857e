using System.Net;
using MaxMind.Db;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Where a network address is: the country from the open data set geo-whois-asn-country (CC0), read where it lies; region
/// and town too, where a better file was configured.
/// </summary>
public sealed class Countries : IDisposable
{
    private const string Language = "en";

    private readonly Reader _reader;

    /// <param name="file">
    /// Path of a file in the MaxMind DB format. Its records have <c>country_code</c>, or <c>country</c> with <c>iso_code</c>;
    /// and perhaps <c>state1</c> and <c>city</c> as texts, or <c>subdivisions</c> and <c>city</c> with <c>names</c>.
    /// </param>
    public Countries(string file) => _reader = new Reader(file, FileAccessMode.MemoryMapped);

    /// <summary>ISO 3166-1 alpha-2 in capitals; empty where nobody knows, as for addresses of this machine and of private networks.</summary>
    public string Of(IPAddress? address) => WhereIs(address).Country;

    /// <summary>Where an address is.</summary>
    public Whereabouts WhereIs(IPAddress? address)
    {
        if (
            address is null
            || _reader.Find<Dictionary<string, object>>(address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address) is not { } found
        )
        {
            return Whereabouts.Unknown;
        }

        string country =
            found.GetValueOrDefault("country_code") as string
            ?? (found.GetValueOrDefault("country") as Dictionary<string, object>)?.GetValueOrDefault("iso_code") as string
            ?? "";
        if (found.Count == 1)
        {
            return new Whereabouts(country, "", "");
        }

        object? region = found.GetValueOrDefault("state1") ?? (found.GetValueOrDefault("subdivisions") as List<object>)?.FirstOrDefault();
        return new Whereabouts(country, NameOf(region), NameOf(found.GetValueOrDefault("city")));
    }

    public void Dispose() => _reader.Dispose();

    /// <summary>A name written as a text, or in several languages.</summary>
    private static string NameOf(object? place) =>
        place as string
        ?? ((place as Dictionary<string, object>)?.GetValueOrDefault("names") as Dictionary<string, object>)?.GetValueOrDefault(Language)
            as string
        ?? "";
}

/// <summary>Where a network address is, as far as a file says.</summary>
/// <param name="Country">ISO 3166-1 alpha-2 in capitals; empty where it is not known.</param>
/// <param name="Region">The largest part of the country, in English; empty where the file has none.</param>
/// <param name="City">The town, in English; empty where the file has none.</param>
public readonly record struct Whereabouts(string Country, string Region, string City)
{
    /// <summary>Nothing is known.</summary>
    public static Whereabouts Unknown { get; } = new("", "", "");
}
