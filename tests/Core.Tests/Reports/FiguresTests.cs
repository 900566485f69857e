using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Reports;

public sealed class FiguresTests
{
    [Fact]
    public void Quotients_are_what_the_rules_say()
    {
        var f = new Figures
        {
            Visits = 200,
            Visitors = 160,
            Bounces = 90,
            ConvertingVisits = 10,
            Conversions = 12,
            Revenue = 400m,
            Cost = 100m,
            PageViews = 500,
        };
        Assert.Equal((0.45m, 0.05m, 2.5m), (f.BounceRate, f.ConversionRate, f.RevenuePerVisitor));
        Assert.Equal((300m, 3m, 2.5m), (f.Profit, f.Return, f.PagesPerVisit));
        Assert.Equal(100m / 12, f.CostPerConversion);
    }

    [Fact]
    public void A_zero_divisor_gives_no_figure()
    {
        var f = Figures.Zero with { Cost = 0m };
        Assert.All(
            new decimal?[] { f.BounceRate, f.ConversionRate, f.RevenuePerVisitor, f.Return, f.CostPerConversion, f.PagesPerVisit },
            figure => Assert.Null(figure)
        );
    }

    [Theory]
    [InlineData("0.125", "0.12")]
    [InlineData("0.135", "0.14")]
    public void Money_is_rounded_half_to_even(string exact, string shown) =>
        Assert.Equal(
            decimal.Parse(shown, System.Globalization.CultureInfo.InvariantCulture),
            Figures.Shown(decimal.Parse(exact, System.Globalization.CultureInfo.InvariantCulture), "EUR")
        );

    [Theory]
    [InlineData("E-mail", "", "email")]
    [InlineData("carrier pigeon", "", "carrier pigeon")]
    [InlineData(null, "vale.example", "referral")]
    [InlineData(null, "", null)]
    public void Arrivals_are_read_through_the_convention(string? medium, string referrer, string? key)
    {
        var way = new TrafficSource(1, RawTags.Of([KeyValuePair.Create("utm_medium", medium ?? "")]), referrer);
        Assert.Equal(key, way.KeyOf(RowKind.Medium, GardenConvention.Garden));
    }

    [Fact]
    public void Untagged_visits_come_from_their_referrer_or_are_direct()
    {
        var way = new TrafficSource(1, RawTags.None, "vale.example");
        Assert.Equal("vale.example", way.KeyOf(RowKind.Source, GardenConvention.Garden));
        Assert.Equal("direct", (way with { ReferrerHost = "" }).KeyOf(RowKind.Source, GardenConvention.Garden));
        Assert.Null(
            (way with { Tags = RawTags.Of([KeyValuePair.Create("utm_campaign", "x")]) }).KeyOf(RowKind.Source, GardenConvention.Garden)
        );
    }
}
