using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.CoreTests.Credit;

/// <summary>The six models of credit, with figures by hand.</summary>
public sealed class CreditRuleTests
{
    private const long ADay = 86_400;

    /// <summary>
    /// One conversion of 100.00 after four visits: 20 days before from a mail (tagged), 10 days before untagged, 5 days before from a
    /// poster (tagged), and the converting one, untagged. By hand: fading weighs 1/4, 1/2, 0.7071 and 1, together 2.4571.
    /// </summary>
    [Theory]
    [InlineData("last", "0.00 0.00 0.00 100.00")]
    [InlineData("lastTagged", "0.00 0.00 100.00 0.00")]
    [InlineData("first", "100.00 0.00 0.00 0.00")]
    [InlineData("equal", "25.00 25.00 25.00 25.00")]
    [InlineData("ends", "35.00 15.00 15.00 35.00")]
    [InlineData("ends:50-10", "50.00 20.00 20.00 10.00")]
    [InlineData("ends:60-40", "60.00 0.00 0.00 40.00")]
    [InlineData("fading", "10.17 20.35 28.78 40.70")]
    [InlineData("fading:5", "3.45 13.79 27.59 55.17")] // 1/16, 1/4, 1/2 and 1, together 1.8125
    public void Four_touches_by_each_model(string rule, string expected) =>
        Assert.Equal(expected, Shared(rule, 100m, 2, (20, true), (10, false), (5, true), (0, false)));

    [Theory]
    [InlineData("ends", "1.00", 0)]
    [InlineData("ends", "0.50 0.50", 3, 0)]
    [InlineData("ends:30-10", "0.75 0.25", 3, 0)] // two share by their ends
    [InlineData("equal", "0.34 0.33 0.33", 3, 2, 0)] // what is left over goes to the earliest of equal fractions
    [InlineData("ends", "0.35 0.30 0.35", 3, 2, 0)]
    [InlineData("fading", "1.00", 0)]
    public void Few_touches(string rule, string expected, params int[] daysBefore) =>
        Assert.Equal(expected, Shared(rule, 1m, 2, [.. daysBefore.Select(d => (d, true))]));

    [Fact]
    public void Where_nothing_is_tagged_the_last_touch_has_it() =>
        Assert.Equal("0.00 5.00", Shared("lastTagged", 5m, 2, (1, false), (0, false)));

    [Theory]
    [InlineData("JPY", 1000, 3, "334 333 333")]
    [InlineData("EUR", 10, 3, "3.34 3.33 3.33")]
    [InlineData("KWD", 1, 3, "0.334 0.333 0.333")]
    public void Money_is_shared_in_whole_minor_units(string currency, int money, int touches, string expected) =>
        Assert.Equal(
            expected,
            Shared(
                "equal",
                money,
                Core.Reports.Currencies.DecimalsOf(currency),
                [.. Enumerable.Range(0, touches).Reverse().Select(d => (d, true))]
            )
        );

    [Theory]
    [InlineData(0)]
    [InlineData(2)]
    [InlineData(3)]
    public void Shares_add_up_exactly(int decimals)
    {
        var random = new Random(11 + decimals);
        string[] rules = ["last", "lastTagged", "first", "equal", "ends", "ends:1-98", "ends:50-50", "fading:1", "fading:90"];
        for (int i = 0; i < 3_000; i++)
        {
            int count = random.Next(1, random.Next(2, CreditChoice.MostTouches + 1));
            var touches = new Touch[count];
            long at = 63_000_000_000;
            for (int t = 0; t < count; t++)
            {
                touches[t] = new Touch(at += random.Next(1, 200_000), random.Next(5));
            }

            // Some values are finer than the currency.
            decimal money = random.Next(5) == 0 ? random.Next() / 10_000m : random.Next() / (decimal)Math.Pow(10, decimals);
            long[] weights = new long[count],
                parts = new long[count];
            decimal[] shares = new decimal[count];
            CreditRule.Parse(rules[random.Next(rules.Length)])!.Weigh(touches, id => id == 2, weights);
            CreditShares.Of(CreditShares.PerConversion, weights, parts);
            CreditShares.OfMoney(money, decimals, weights, shares);
            Assert.Equal(CreditShares.PerConversion, parts.Sum());
            Assert.Equal(money, shares.Sum());
            decimal power = (decimal)Math.Pow(10, decimals);
            Assert.True(shares.Count(s => s * power != decimal.Truncate(s * power)) <= 1);

            // Nobody gets a unit more or less than its part, rounded either way.
            decimal all = weights.Sum(w => (decimal)w);
            Assert.All(weights.Zip(parts), p =>
                Assert.InRange(
                    p.Second,
                    Math.Floor(p.First / all * CreditShares.PerConversion - 0.0001m),
                    Math.Ceiling(p.First / all * CreditShares.PerConversion + 0.0001m)
                )
            );
        }
    }

    [Theory]
    [InlineData("first", "first")]
    [InlineData("LASTTAGGED", "lastTagged")]
    [InlineData("ends", "ends:35-35")]
    [InlineData("Ends:40-20", "ends:40-20")]
    [InlineData("fading:7", "fading:7")]
    public void A_rule_is_read_as_it_is_written(string text, string written)
    {
        var rule = CreditRule.Parse(text)!;
        Assert.Equal(written, rule.ToString());
        Assert.Equal(rule, CreditRule.Parse(written));
    }

    [Theory]
    [InlineData("")]
    [InlineData("middle")]
    [InlineData("3")]
    [InlineData("first:1")]
    [InlineData("ends:0-50")]
    [InlineData("ends:60-50")]
    [InlineData("ends:35")]
    [InlineData("ends:-35-35")]
    [InlineData("fading:0")]
    [InlineData("fading:91")]
    [InlineData("fading:")]
    [InlineData("fading:99999999999")]
    public void What_is_no_rule_is_refused(string text) => Assert.Null(CreditRule.Parse(text));

    [Theory]
    [InlineData(null, "first", null, false)] // compared with what?
    [InlineData("first", "nothing", null, false)]
    [InlineData("first", null, 0, false)]
    [InlineData("first", null, 91, false)]
    [InlineData("first", "fading:7", 30, true)]
    [InlineData(null, null, null, true)]
    [InlineData("", "", 400, true)] // no model asks for days
    public void A_choice_is_read(string? rule, string? beside, int? days, bool isRead) =>
        Assert.Equal(isRead, CreditChoice.TryRead(rule, beside, days, out _));

    public static TheoryData<string, string, int, string> Texts()
    {
        var data = new TheoryData<string, string, int, string>();
        foreach (var row in Reports.SharedTable.Read("creditTexts.json").EnumerateArray())
        {
            data.Add(row[0].GetString()!, row[1].GetString()!, row[2].GetInt32(), row[3].GetString()!);
        }

        return data;
    }

    [Theory]
    [MemberData(nameof(Texts))]
    public void A_view_says_it_as_on_the_screen(string rule, string beside, int days, string says)
    {
        Assert.True(CreditChoice.TryRead(rule, beside, days, out var choice));
        Assert.Equal(says, CreditText.Of(choice!));
    }

    private static string Shared(string rule, decimal money, int decimals, params (int DaysBefore, bool Tagged)[] touches)
    {
        long now = 739_000 * ADay;
        Touch[] all = [.. touches.Select((t, i) => new Touch(now - (t.DaysBefore * ADay), (2 * i) + (t.Tagged ? 1 : 0)))];
        long[] weights = new long[all.Length];
        decimal[] shares = new decimal[all.Length];
        CreditRule.Parse(rule)!.Weigh(all, id => id % 2 == 1, weights);
        CreditShares.OfMoney(money, decimals, weights, shares);
        return string.Join(' ', shares.Select(s => s.ToString($"F{decimals}", System.Globalization.CultureInfo.InvariantCulture)));
    }
}
