using System.Globalization;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

public sealed class CurrenciesTests
{
    /// <summary>Every currency the platform's region data (Unicode CLDR) names is known, but for what has been replaced since.</summary>
    [Fact]
    public void The_platforms_own_currencies_are_known()
    {
        string[] replaced = ["ANG", "BGN", "HRK", "ZWL", "SLL", "CUC", "VED", "MRO", "STD", "BYR", "VEF", "LTL", "CHE", "CHW", "BOV", "XXX", "¤¤"];
        var regions = CultureInfo.GetCultures(CultureTypes.SpecificCultures).Where(c => c.Name.Length > 0).Select(c => new RegionInfo(c.Name).ISOCurrencySymbol).Distinct().ToList();
        Assert.True(regions.Count > 100);
        Assert.Empty(regions.Where(r => r.Length == 3 && !Currencies.IsKnown(r)).Except(replaced));
    }

    [Theory]
    [InlineData("EUR", true)]
    [InlineData("eur", true)]
    [InlineData("ZZZ", false)]
    [InlineData("EURO", false)]
    [InlineData("", false)]
    public void A_code(string code, bool known) => Assert.Equal(known, Currencies.IsKnown(code));
}
