using System.Globalization;
using System.Text.RegularExpressions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>
/// Fills <c>@{click.country}</c>, <c>@{click.device}</c>, <c>@{click.date}</c>, <c>@{click.slug}</c>, <c>@{click.referrer}</c> and,
/// where the link asks for it, <c>@{click.id}</c> into values of parameters, percent-encoded; never into host or path, where they would decide
/// whose page is opened.
/// </summary>
public static partial class ClickFillIns
{
    /// <summary>What is known at a click, by the names it is filled in under.</summary>
    public static IReadOnlyList<string> Names { get; } = ["country", "device", "date", "slug", "referrer", "id"];

    /// <summary>True for a whole fill-in of ours, such as <c>@{click.country}</c>.</summary>
    public static bool IsKnown(string fillIn) => Names.Any(n => fillIn.Equals($"@{{click.{n}}}", StringComparison.OrdinalIgnoreCase));

    /// <summary>True when an address has anything to fill in where that is done.</summary>
    public static bool In(string address) => QueryAt(address) is >= 0 and var at && Shape().IsMatch(address, at);

    /// <summary>The address with everything filled in; a name that is not one of ours stays as it stands.</summary>
    public static string Fill(string address, ClickFacts click)
    {
        int at = QueryAt(address);
        return at < 0
            ? address
            : string.Concat(
                address.AsSpan(0, at),
                Shape()
                    .Replace(address[at..], match =>
                        ValueOf(match.Groups["name"].Value, click) is { } value ? Uri.EscapeDataString(value) : match.Value
                    )
            );
    }

    private static string? ValueOf(string name, ClickFacts click) =>
        name.ToLowerInvariant() switch
        {
            "country" => click.Country,
            "device" => click.Device,
            "date" => click.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            "slug" => click.Slug,
            "referrer" => click.Referrer,
            "id" => click.Id,
            _ => null,
        };

    private static int QueryAt(string address) => address.IndexOf('?', StringComparison.Ordinal);

    /// <summary>As it is typed, or with its marks percent-encoded, right behind the value's beginning or within it: never in a key, which a <c>=</c> would follow.</summary>
    [GeneratedRegex(
        @"(?:@|%40)(?:\{|%7B)click\.(?<name>[a-z]+)(?:\}|%7D)(?![^&#]*=)",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant,
        100
    )]
    private static partial Regex Shape();
}

/// <summary>What is known of a click, to be filled into the address it is sent to.</summary>
/// <param name="Slug">The slug that was asked for.</param>
/// <param name="Day">The day it is where the workspace is.</param>
/// <param name="Device">See <see cref="Traffic.Device"/>.</param>
/// <param name="Country">ISO 3166-1 alpha-2 in capitals; empty where it is not known.</param>
/// <param name="Referrer">Host the click came from; empty for none.</param>
/// <param name="Id">The click's id (<see cref="ClickId"/>); empty where the link gives none.</param>
public sealed record ClickFacts(string Slug, DateOnly Day, string Device, string Country, string Referrer, string Id = "");
