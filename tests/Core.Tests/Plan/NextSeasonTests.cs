using System.Globalization;
using FsCheck.Xunit;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.CoreTests.Plan;

public sealed class NextSeasonTests
{
    private static DateOnly Day(string text) => DateOnly.Parse(text, CultureInfo.InvariantCulture);

    [Theory]
    [InlineData("2026-10-01", "2027-10-01", 365)]
    [InlineData("2027-10-01", "2028-10-01", 366)] // over 29 February 2028
    [InlineData("2028-02-29", "2029-02-28", 365)]
    [InlineData("2026-12-31", "2027-12-31", 365)]
    public void The_year_after_begins_on_the_same_date(string from, string to, int days)
    {
        var season = NextSeason.YearAfter(Day(from));
        Assert.Equal((Day(to), days), (season.To, season.Days));
    }

    [Fact]
    public void Every_day_moves_by_the_same_number_of_days()
    {
        var season = new NextSeason(Day("2026-10-01"), Day("2027-10-04"));
        Assert.Equal(Day("2027-12-23"), season.Shift(Day("2026-12-20")));
        Assert.Null(season.Shift(null));
        Assert.Equal(DateOnly.MaxValue, season.Shift(DateOnly.MaxValue));
    }

    [Theory]
    [InlineData("2026-10_lantern_nights", "2027-10_lantern_nights")]
    [InlineData("lantern_20261001", "lantern_20271001")]
    [InlineData("2026q4 Lantern", "2027q4 Lantern")]
    [InlineData("2026w40_lantern", "2027w39_lantern")] // 1 October 2027 lies in week 39 of ISO 8601
    [InlineData("Lantern Nights 2026", "Lantern Nights 2027")]
    [InlineData("Lantern Nights", "Lantern Nights")]
    [InlineData("code_x2026-10y", "code_x2026-10y")] // part of something else
    [InlineData("room 12026", "room 12026")]
    public void A_name_with_the_old_date_gets_the_new_one(string before, string after) =>
        Assert.Equal(after, NextSeason.YearAfter(Day("2026-10-01")).Rename(before));

    [Property(MaxTest = 300)]
    public bool Renaming_forth_and_back_gives_the_name_again(ushort from, ushort days)
    {
        var start = new DateOnly(2001, 1, 1).AddDays(from % 18_000);
        var season = new NextSeason(start, start.AddDays(days % 3_000));
        return Enum.GetValues<DateForm>()
            .All(form =>
            {
                string name = DateText.Write(start, form) + "_orchid";
                return new NextSeason(season.To, season.From).Rename(season.Rename(name)) == name && season.Shift(start) == season.To;
            });
    }

    [Fact]
    public void A_new_value_is_proposed_the_way_the_others_are_written()
    {
        var rules = new ValueRules();
        (string, DateOnly)[] others =
        [
            ("2026-10_lantern_nights", Day("2026-10-01")),
            ("2026-06_night_moths", Day("2026-06-01")),
            ("orchid", Day("2026-02-01")),
        ];
        Assert.Equal("2027-03_seed_swap", CampaignValue.Propose("Seed Swap", Day("2027-03-09"), rules, others));
        Assert.Equal("seed_swap", CampaignValue.Propose("Seed Swap", null, rules, others));
        Assert.Equal("seed_swap", CampaignValue.Propose("Seed Swap", Day("2027-03-09"), rules, others[2..]));
        Assert.Equal("2027-03_seed_swap", CampaignValue.Propose("2027-03 Seed Swap", Day("2027-03-09"), rules, others));
        Assert.Equal("", CampaignValue.Propose("  ", Day("2027-03-09"), rules, others));
    }
}
