using System.Globalization;
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
    /// and perhaps <c>state1</c> and <c>city</c> as texts, or <c>subdivisions</c> and <c>city</c> with <c>names</c>; and perhaps
    /// <c>latitude</c> and <c>longitude</c>, by themselves or in <c>location</c>.
    /// </param>
    public Countries(string file) => _reader = new Reader(file, FileAccessMode.MemoryMapped);

    /// <summary>ISO 3166-1 alpha-2 in capitals; empty where nobody knows, as for addresses of this machine and of private networks.</summary>
    public string Of(IPAddress? address) => WhereIs(address).Country;

    /// <summary>Where an address is.</summary>
    public Whereabouts WhereIs(IPAddress? address)
    {
        if (Find(address) is not { } found)
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

    /// <summary>Where the town of an address lies; null where the file has no coordinates.</summary>
    public GeoPoint? PointOf(IPAddress? address)
    {
        var found = Find(address);
        var location = found?.GetValueOrDefault("location") as Dictionary<string, object> ?? found;
        return
            NumberOf(location?.GetValueOrDefault("latitude")) is { } latitude
            && NumberOf(location?.GetValueOrDefault("longitude")) is { } longitude
            ? GeoPoint.Of(latitude, longitude)
            : null;
    }

    public void Dispose() => _reader.Dispose();

    private Dictionary<string, object>? Find(IPAddress? address) =>
        address is null ? null : _reader.Find<Dictionary<string, object>>(address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address);

    private static double? NumberOf(object? number) =>
        number switch
        {
            double many => many,
            float few => few,
            string text when double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out double read) => read,
            _ => null,
        };

    /// <summary>A name written as a text, or in several languages.</summary>
    private static string NameOf(object? place) =>
        place as string
        ?? ((place as Dictionary<string, object>)?.GetValueOrDefault("names") as Dictionary<string, object>)?.GetValueOrDefault(Language)
            as string
        ?? "";
}

/// <summary>A place on the globe (WGS 84), no more exact than a town is wide.</summary>
/// <param name="Latitude">Degrees north of the equator, -90 to 90.</param>
/// <param name="Longitude">Degrees east of Greenwich, -180 to 180.</param>
public readonly record struct GeoPoint(double Latitude, double Longitude)
{
    /// <summary>A hundredth of a degree of latitude is 1.1 km.</summary>
    private const int Digits = 2;

    /// <summary>The place; null where there is none such.</summary>
    public static GeoPoint? Of(double latitude, double longitude) =>
        Math.Abs(latitude) <= 90 && Math.Abs(longitude) <= 180
            ? new GeoPoint(Math.Round(latitude, Digits), Math.Round(longitude, Digits))
            : null;
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
