using System.Net;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>Region and town are known only where a file says so, in either of the two forms such files have.</summary>
public sealed class WhereaboutsTests : IDisposable
{
    private readonly string _path = Path.GetTempFileName();

    public void Dispose() => File.Delete(_path);

    private Whereabouts Read(Dictionary<string, object> record)
    {
        PlaceFile.Write(_path, record);
        using var countries = new Countries(_path);
        Assert.Equal(countries.WhereIs(IPAddress.Parse("192.0.2.7")), countries.WhereIs(IPAddress.Parse("2001:db8::7")));
        return countries.WhereIs(IPAddress.Parse("192.0.2.7").MapToIPv6());
    }

    [Fact]
    public void Named_in_several_languages() =>
        Assert.Equal(
            new Whereabouts("IE", "Leinster", "Dublin"),
            Read(
                new()
                {
                    ["country"] = new Dictionary<string, object> { ["iso_code"] = "IE" },
                    ["subdivisions"] = new List<object> { Named("Leinster", "Linster") },
                    ["city"] = Named("Dublin", "Baile Atha Cliath"),
                }
            )
        );

    [Fact]
    public void Named_flat() =>
        Assert.Equal(
            new Whereabouts("IE", "Leinster", "Dublin"),
            Read(
                new()
                {
                    ["country_code"] = "IE",
                    ["state1"] = "Leinster",
                    ["city"] = "Dublin",
                }
            )
        );

    [Fact]
    public void The_country_alone() => Assert.Equal(new Whereabouts("IE", "", ""), Read(new() { ["country_code"] = "IE" }));

    [Fact]
    public void A_town_without_a_region() =>
        Assert.Equal(new Whereabouts("IE", "", "Dublin"), Read(new() { ["country_code"] = "IE", ["city"] = "Dublin" }));

    /// <summary>To a hundredth of a degree, in either form; what is nowhere on the globe is not known.</summary>
    [Theory]
    [InlineData(false, "53.3481", "-6.2483", 53.35, -6.25)]
    [InlineData(false, 53.3481, -6.2483, 53.35, -6.25)]
    [InlineData(true, 53.3481, -6.2483, 53.35, -6.25)]
    [InlineData(true, -90.0, 180.0, -90.0, 180.0)]
    [InlineData(true, 91.0, 0.0, null, null)]
    [InlineData(false, "somewhere", "0", null, null)]
    [InlineData(false, 53.3481, null, null, null)]
    public void A_town_lies_where_the_file_says(bool apart, object latitude, object? longitude, double? north, double? east)
    {
        var point = new Dictionary<string, object> { ["latitude"] = latitude };
        if (longitude is not null)
        {
            point["longitude"] = longitude;
        }

        PlaceFile.Write(_path, apart ? new() { ["country_code"] = "IE", ["location"] = point } : new(point) { ["country_code"] = "IE" });
        using var countries = new Countries(_path);
        Assert.Equal(
            north is null ? null : new GeoPoint(north.Value, east!.Value),
            countries.PointOf(IPAddress.Parse("192.0.2.7").MapToIPv6())
        );
        Assert.Null(countries.PointOf(null));
    }

    private static Dictionary<string, object> Named(string english, string other) =>
        new()
        {
            ["names"] = new Dictionary<string, object> { ["en"] = english, ["ga"] = other },
        };
}
