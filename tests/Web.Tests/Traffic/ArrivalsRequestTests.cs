using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>A range is cut into whole months and the days around them, each day once.</summary>
public sealed class ArrivalsRequestTests
{
    private static ArrivalsRequest Range(DateOnly from, DateOnly to) => new(Guid.Empty, "EUR", from, to, [], []);

    [Theory]
    [InlineData("2026-03-01", "2026-03-31", "2026-02-28", "2026-04-01")] // one whole month
    [InlineData("2026-03-02", "2026-03-31", "2026-03-31", "2026-04-01")] // none
    [InlineData("2026-01-15", "2026-04-10", "2026-01-31", "2026-04-01")]
    [InlineData("2026-01-15", "2026-02-10", "2026-02-10", "2026-02-11")]
    [InlineData("2026-05-05", "2026-05-05", "2026-05-05", "2026-05-06")]
    public void Whole_months_are_found(string from, string to, string before, string after)
    {
        var culture = System.Globalization.CultureInfo.InvariantCulture;
        Assert.Equal(
            (DateOnly.Parse(before, culture), DateOnly.Parse(after, culture)),
            Range(DateOnly.Parse(from, culture), DateOnly.Parse(to, culture)).AroundWholeMonths
        );
    }

    [Fact]
    public void Every_day_of_every_range_is_counted_once()
    {
        var start = new DateOnly(2024, 1, 1);
        for (int offset = 0; offset < 70; offset += 3)
        {
            for (int length = 0; length < 130; length += 7)
            {
                var from = start.AddDays(offset);
                var to = from.AddDays(length);
                var (before, after) = Range(from, to).AroundWholeMonths;
                for (var day = from.AddDays(-40); day <= to.AddDays(40); day = day.AddDays(1))
                {
                    var month = new DateOnly(day.Year, day.Month, 1);
                    int times =
                        (day >= from && day <= before ? 1 : 0)
                        + (day >= after && day <= to ? 1 : 0)
                        + (month > before && month < after ? 1 : 0);
                    Assert.True(times == (day >= from && day <= to ? 1 : 0), $"{day} in {from} to {to}: {times}");
                }
            }
        }
    }
}
