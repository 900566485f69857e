using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

/// <summary>A page is silent where people click its links and nothing is measured; without clicks nobody can tell.</summary>
public sealed class PageSilenceTests
{
    private static readonly DateOnly Today = new(2026, 11, 29);

    [Theory]
    [InlineData(3, 10, true)]
    [InlineData(30, 400, true)]
    [InlineData(2, 400, false)] // a weekend
    [InlineData(30, 9, false)] // the campaign is over
    [InlineData(null, 400, false)] // never measured at all
    public void A_page_is_silent_where_people_click_and_nothing_is_measured(int? days, long clicks, bool silent) =>
        Assert.Equal(silent, PageSilence.Of(days is { } ago ? Today.AddDays(-ago) : null, clicks, Today) is not null);

    [Fact]
    public void It_says_how_long_and_by_how_many() =>
        Assert.Contains(
            "for 5 days, though people clicked its links 1,200 times",
            PageSilence.Of(Today.AddDays(-5), 1_200, Today)!.Message,
            StringComparison.Ordinal
        );
}
