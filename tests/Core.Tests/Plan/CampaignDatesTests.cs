using System.Globalization;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.CoreTests.Plan;

public sealed class CampaignDatesTests
{
    private static DateOnly? Day(string? text) => text is null ? null : DateOnly.Parse(text, CultureInfo.InvariantCulture);

    [Theory]
    [InlineData(null, null, "2026-11-25", CampaignState.AlwaysOn)]
    [InlineData("2026-11-26", null, "2026-11-25", CampaignState.Ahead)]
    [InlineData("2026-11-25", "2026-11-25", "2026-11-25", CampaignState.Running)] // a single day runs on it
    [InlineData("2026-11-01", null, "2026-11-25", CampaignState.Running)]
    [InlineData("2026-11-01", "2026-11-24", "2026-11-25", CampaignState.Over)]
    [InlineData(null, "2026-11-24", "2026-11-25", CampaignState.Over)]
    public void A_campaign_stands_somewhere_on_every_day(string? starts, string? ends, string day, CampaignState state) =>
        Assert.Equal(state, new CampaignDates(Day(starts), Day(ends)).On(Day(day)!.Value));

    [Theory]
    [InlineData("2026-01-01", "2026-01-31", "2026-01-31", "2026-02-10", true)] // both ends belong to it
    [InlineData("2026-01-01", "2026-01-31", "2026-02-01", "2026-02-10", false)]
    [InlineData(null, null, "2026-02-01", "2026-02-10", true)]
    [InlineData("2026-01-01", null, "2027-02-01", "2027-02-10", true)]
    public void Overlapping_is_the_same_from_both_sides(string? a1, string? a2, string? b1, string? b2, bool overlap)
    {
        var (a, b) = (new CampaignDates(Day(a1), Day(a2)), new CampaignDates(Day(b1), Day(b2)));
        Assert.Equal((overlap, overlap), (a.Overlaps(b), b.Overlaps(a)));
    }

    [Theory]
    [InlineData("2026-01-01", "2026-12-31", 365)]
    [InlineData("2028-01-01", "2028-12-31", 366)] // a leap year
    [InlineData("2026-11-25", "2026-11-25", 1)]
    [InlineData("2026-11-25", null, null)]
    public void Both_ends_are_counted(string? starts, string? ends, int? days) =>
        Assert.Equal(days, new CampaignDates(Day(starts), Day(ends)).Days);

    /// <summary>Zones and their offsets by the IANA time zone database; Dublin's summer time ends at 01:00 UTC on 25 October 2026.</summary>
    [Theory]
    [InlineData("2026-10-24T23:30:00Z", "Europe/Dublin", "2026-10-25")] // still summer time, an hour ahead
    [InlineData("2026-10-25T23:30:00Z", "Europe/Dublin", "2026-10-25")] // summer time is over
    [InlineData("2026-12-31T23:59:59Z", "Europe/Dublin", "2026-12-31")]
    [InlineData("2026-12-31T10:00:00Z", "Pacific/Kiritimati", "2027-01-01")] // UTC+14
    [InlineData("2027-01-01T10:59:00Z", "Pacific/Pago_Pago", "2026-12-31")] // UTC−11
    [InlineData("2028-02-28T22:00:00Z", "Asia/Kolkata", "2028-02-29")] // UTC+5:30
    public void The_day_is_the_workspaces(string moment, string zone, string day) =>
        Assert.Equal(Day(day), WorkspaceDay.At(DateTimeOffset.Parse(moment, CultureInfo.InvariantCulture), zone));

    /// <summary>Weekday numbers by ISO 8601: 2026-11-23 is a Monday.</summary>
    [Fact]
    public void Days_of_use_begin_with_Monday()
    {
        var monday = new DateOnly(2026, 11, 23);
        Assert.Equal([1, 2, 3, 4, 5, 6, 7], Enumerable.Range(0, 7).Select(i => UseDays.NumberOf(monday.AddDays(i))));
        Assert.True(UseDays.Allow([], monday));
        Assert.False(UseDays.Allow([2, 4], monday));
        Assert.Equal(monday.AddDays(1), UseDays.NextFrom([2, 4], monday));
        Assert.Equal(monday.AddDays(8), UseDays.NextFrom([2], monday.AddDays(2)));
    }
}
