using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

public sealed class CurrenciesTests
{
    /// <summary>Every currency the platform's region data (Unicode CLDR) names is known, but for what has been replaced since.</summary>
    [Fact]
    public void The_platforms_own_currencies_are_known()
    {
        string[] replaced =
        [
            "ANG",
            "BGN",
            "HRK",
            "ZWL",
            "SLL",
            "CUC",
            "VED",
            "MRO",
            "STD",
            "BYR",
            "VEF",
            "LTL",
            "CHE",
            "CHW",
            "BOV",
            "XXX",
            "¤¤",
        ];
        var regions = CultureInfo
            .GetCultures(CultureTypes.SpecificCultures)
            .Where(c => c.Name.Length > 0)
            .Select(c => new RegionInfo(c.Name).ISOCurrencySymbol)
            .Distinct()
            .ToList();
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

    /// <summary>
    /// Node's currencies (Unicode CLDR) have ISO 4217's minor units, but for those whose small coins CLDR says nobody uses any more.
    /// </summary>
    [Fact]
    public async Task A_currency_has_the_decimals_node_knows()
    {
        const string Script =
            "console.log(JSON.stringify(Intl.supportedValuesOf('currency').map(c => [c, new Intl.NumberFormat('en', { style: 'currency', currency: c }).resolvedOptions().maximumFractionDigits])))";
        using var node = Process.Start(new ProcessStartInfo("node", ["-e", Script]) { RedirectStandardOutput = true })!;
        var known = JsonSerializer
            .Deserialize<List<JsonElement[]>>(await node.StandardOutput.ReadToEndAsync())!
            .ToDictionary(c => c[0].GetString()!, c => c[1].GetInt32());
        var used = known.Where(c => Currencies.IsKnown(c.Key)).ToList();
        Assert.True(used.Count > 100);
        string[] withoutSmallCoins =
        [
            "AFN",
            "ALL",
            "COP",
            "HUF",
            "IDR",
            "IQD",
            "IRR",
            "KPW",
            "LAK",
            "LBP",
            "MGA",
            "MMK",
            "PKR",
            "SOS",
            "SYP",
            "YER",
        ];
        Assert.Equal(
            withoutSmallCoins,
            used.Where(c => Currencies.DecimalsOf(c.Key) != c.Value).Select(c => c.Key).Order(StringComparer.Ordinal)
        );
        Assert.Equal((0, 2, 3), (Currencies.DecimalsOf("JPY"), Currencies.DecimalsOf("EUR"), Currencies.DecimalsOf("KWD")));
        Assert.Equal((2m, 1.24m, 1.234m), (Figures.Shown(1.5m, "JPY"), Figures.Shown(1.235m, "EUR"), Figures.Shown(1.2345m, "KWD")));
    }
}
