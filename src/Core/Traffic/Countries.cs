using System.Net;
using MaxMind.Db;

namespace PreciseBeacon.Core.Traffic;

/// <summary>The country of a network address, from the open data set geo-whois-asn-country (CC0), read where it lies.</summary>
public sealed class Countries : IDisposable
{
    private readonly Reader _reader;

    /// <param name="file">Path of a file in the MaxMind DB format whose records have <c>country_code</c>, or <c>country</c> with <c>iso_code</c>.</param>
    public Countries(string file) => _reader = new Reader(file, FileAccessMode.MemoryMapped);

    /// <summary>ISO 3166-1 alpha-2 in capitals; empty where nobody knows, as for addresses of this machine and of private networks.</summary>
    public string Of(IPAddress? address)
    {
        if (address is null)
        {
            return "";
        }

        var found = _reader.Find<Dictionary<string, object>>(address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address);
        return found is null ? ""
            : found.TryGetValue("country_code", out object? code) ? code as string ?? ""
            : found.TryGetValue("country", out object? country) && country is Dictionary<string, object> named && named.TryGetValue("iso_code", out object? iso) ? iso as string ?? ""
            : "";
    }

    public void Dispose() => _reader.Dispose();
}
