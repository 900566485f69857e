using System.Globalization;
using FsCheck.Xunit;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.CoreTests.Conventions;

public sealed class DateTextTests
{
    /// <summary>Weeks by ISO 8601: the examples of its first week of a year and of 28 December being always in the last one.</summary>
    [Theory]
    [InlineData("2026-03-01", DateForm.PlainDay, "20260301")]
    [InlineData("2026-03-01", DateForm.Day, "2026-03-01")]
    [InlineData("2026-03-01", DateForm.Month, "2026-03")]
    [InlineData("2026-03-01", DateForm.Quarter, "2026q1")]
    [InlineData("2026-03-01", DateForm.Week, "2026w09")]
    [InlineData("2005-01-01", DateForm.Week, "2004w53")]
    [InlineData("2008-12-29", DateForm.Week, "2009w01")]
    [InlineData("2010-01-03", DateForm.Week, "2009w53")]
    [InlineData("2026-12-28", DateForm.Week, "2026w53")]
    [InlineData("2026-12-31", DateForm.Quarter, "2026q4")]
    public void A_date_is_written_in_its_form(string date, DateForm form, string written) =>
        Assert.Equal(written, DateText.Write(DateOnly.Parse(date, CultureInfo.InvariantCulture), form));

    [Property(MaxTest = 500)]
    public bool What_was_written_is_read_back_as_the_days_it_stands_for(ushort days)
    {
        var date = new DateOnly(1990, 1, 1).AddDays(days % 40_000);
        return Enum.GetValues<DateForm>()
            .All(form =>
                DateText.Read(DateText.Write(date, form), form) is var (first, last)
                && first <= date
                && date <= last
                && DateText.Write(first, form) == DateText.Write(last, form)
                && DateText.Read(DateText.Write(date, form))!.Value.Form == form
            );
    }

    [Theory]
    [InlineData("2026-02-30")]
    [InlineData("2026q5")]
    [InlineData("2025w53")] // 2025 has 52 weeks
    [InlineData("2026w9")]
    [InlineData("0000q1")]
    [InlineData("soon")]
    [InlineData("")]
    public void What_is_no_date_is_not_read(string text) => Assert.Null(DateText.Read(text));

    [Fact]
    public void A_month_has_no_day_and_a_week_no_month()
    {
        Assert.True(DateText.Holds(DateForm.Day, DateForm.Week));
        Assert.True(DateText.Holds(DateForm.Month, DateForm.Quarter));
        Assert.False(DateText.Holds(DateForm.Month, DateForm.Day));
        Assert.False(DateText.Holds(DateForm.Week, DateForm.Month));
        Assert.False(DateText.Holds(DateForm.Quarter, DateForm.Month));
    }

    [Theory]
    [InlineData("2026-12-03", "2027-01-09", "3 Dec 2026 to 9 Jan 2027")]
    [InlineData("2026-12-03", null, "from 3 Dec 2026")]
    [InlineData(null, "2027-01-09", "until 9 Jan 2027")]
    [InlineData(null, null, "always")]
    public void Sentences_say_days_as_people_do(string? first, string? last, string says) =>
        Assert.Equal(says, DateText.Say(Day(first), Day(last)));

    private static DateOnly? Day(string? iso) =>
        iso is null ? null : DateOnly.Parse(iso, System.Globalization.CultureInfo.InvariantCulture);
}
