using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.CoreTests.Imports;

/// <summary>Amounts and days as files write them; what could be two things is never guessed.</summary>
public sealed class ImportColumnsTests
{
    [Theory]
    [InlineData("12", null, 12)]
    [InlineData("12.5", null, 12.5)]
    [InlineData("12,5", null, 12.5)]
    [InlineData("1,234.50", null, 1234.5)]
    [InlineData("1.234,50", null, 1234.5)]
    [InlineData("1,234,567", null, 1234567)]
    [InlineData("€ 1 234,50", null, 1234.5)]
    [InlineData("1’234.50 CHF", null, 1234.5)]
    [InlineData("0.125", null, 0.125)]
    [InlineData("1234.567", null, 1234.567)] // no group has four digits
    [InlineData("1,234", ".", 1234)]
    [InlineData("1,234", ",", 1.234)]
    [InlineData("0", null, 0)]
    public void An_amount_is_read(string text, string? point, decimal amount) =>
        Assert.Equal((amount, null), new AmountColumn([text], point?[0]).Read(text));

    [Theory]
    [InlineData("1,234", ImportProblem.AmountAmbiguous)]
    [InlineData("1.234", ImportProblem.AmountAmbiguous)]
    [InlineData("-3.50", ImportProblem.AmountNegative)]
    [InlineData("−3.50", ImportProblem.AmountNegative)]
    [InlineData("free", ImportProblem.AmountUnreadable)]
    [InlineData("1.2.3,4,5", ImportProblem.AmountUnreadable)]
    [InlineData("99999999999999999999", ImportProblem.AmountUnreadable)]
    [InlineData("5-3", ImportProblem.AmountUnreadable)]
    public void What_is_no_amount_says_so(string text, ImportProblem problem) =>
        Assert.Equal((null, problem), new AmountColumn([text]).Read(text));

    /// <summary>One row without doubt says how all others are meant; two that disagree leave those in doubt out.</summary>
    [Fact]
    public void The_column_says_which_sign_parts_the_decimals()
    {
        Assert.Equal((1234m, null), new AmountColumn(["1,234", "12.50"]).Read("1,234"));
        Assert.Equal((1.234m, null), new AmountColumn(["1,234", "12,50"]).Read("1,234"));
        Assert.Equal((null, ImportProblem.AmountAmbiguous), new AmountColumn(["1,234.50", "12.50"]).Read("1.234,50"));
        var mixed = new AmountColumn(["1,234.50", "1.234,50", "1,234"]);
        Assert.Equal((1234.5m, null), mixed.Read("1,234.50"));
        Assert.Equal((1234.5m, null), mixed.Read("1.234,50"));
        Assert.Equal((null, ImportProblem.AmountAmbiguous), mixed.Read("1,234"));
    }

    [Theory]
    [InlineData("2026-11-30", "2026-11-30")]
    [InlineData("2026/11/30", "2026-11-30")]
    [InlineData("20261130", "2026-11-30")]
    [InlineData("2026-11-30T00:00:00Z", "2026-11-30")]
    [InlineData("2026-11-30 00:00:00", "2026-11-30")]
    [InlineData("30.11.2026", "2026-11-30")]
    [InlineData("3.4.2026", "2026-04-03")]
    [InlineData("30/11/2026", "2026-11-30")]
    [InlineData("11/30/2026", "2026-11-30")]
    [InlineData("5/5/2026", "2026-05-05")]
    public void A_day_is_read(string text, string day) => Assert.Equal((DateOnly.Parse(day, null), null), new DayColumn([text]).Read(text));

    [Theory]
    [InlineData("", ImportProblem.DayMissing)]
    [InlineData("3/4/2026", ImportProblem.DayAmbiguous)]
    [InlineData("2026-02-30", ImportProblem.DayUnreadable)]
    [InlineData("31.02.2026", ImportProblem.DayUnreadable)]
    [InlineData("Tuesday", ImportProblem.DayUnreadable)]
    [InlineData("13/13/2026", ImportProblem.DayUnreadable)]
    public void What_is_no_day_says_so(string text, ImportProblem problem) =>
        Assert.Equal((null, problem), new DayColumn([text]).Read(text));

    [Fact]
    public void The_column_says_whether_the_day_stands_first()
    {
        Assert.Equal((new DateOnly(2026, 4, 3), null), new DayColumn(["3/4/2026", "13/4/2026"]).Read("3/4/2026"));
        Assert.Equal((new DateOnly(2026, 3, 4), null), new DayColumn(["3/4/2026", "3/14/2026"]).Read("3/4/2026"));
        Assert.Equal((new DateOnly(2026, 4, 3), null), new DayColumn(["3/4/2026"], chosen: true).Read("3/4/2026"));
        Assert.Equal((null, ImportProblem.DayAmbiguous), new DayColumn(["3/4/2026", "13/4/2026", "4/13/2026"]).Read("3/4/2026"));
    }
}
