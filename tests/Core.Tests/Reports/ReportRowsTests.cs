using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>How a report's rows are asked for, ordered and cut into pages.</summary>
public sealed class ReportRowsTests
{
    private static readonly ReportRow[] Rows =
    [
        new(
            ["a"],
            new Figures
            {
                Visits = 5,
                Visitors = 4,
                Bounces = 5,
                Revenue = 10m,
            }
        ),
        new(
            ["b"],
            new Figures
            {
                Visits = 9,
                Visitors = 9,
                Revenue = 1m,
            }
        ),
        new(
            [null],
            new Figures
            {
                Visits = 5,
                Visitors = 1,
                Bounces = 1,
            }
        ),
        new(["gone"], Figures.Zero, new Figures { Visits = 3 }),
    ];

    private static ReportPage Page(string sort = "-visits", string search = "", int page = 1, int size = 50) =>
        ReportRows.PageOf(Rows, sort, search, key => key == "b" ? "Bulb Sale" : null, page, size);

    [Theory]
    [InlineData("-visits", "b,,a,gone")]
    [InlineData("visits", "gone,,a,b")]
    [InlineData("-revenue", "a,b,,gone")]
    [InlineData("bounceRate", "b,,a,gone")] // no rate for no visits, so it comes last
    [InlineData("-bounceRate", "a,,b,gone")]
    [InlineData("-REVENUEPERVISIT", "a,b,,gone")]
    [InlineData("key", ",a,b,gone")]
    [InlineData("-key", "gone,b,a,")]
    public void Rows_are_ordered_by_any_measure_and_those_without_a_figure_come_last(string sort, string keys) =>
        Assert.Equal(keys, string.Join(',', Page(sort).Rows.Select(r => r.Keys[0])));

    [Theory]
    [InlineData("hour", "0,2,11")]
    [InlineData("weekday,source", "0,2,11")]
    [InlineData("source,hour", "11,2,0")]
    public void Hours_and_days_come_in_their_own_order_unless_asked_otherwise(string rows, string keys)
    {
        ReportRow[] hours =
        [
            .. new[] { 2, 11, 0 }.Select(h => new ReportRow(
                [h.ToString(System.Globalization.CultureInfo.InvariantCulture)],
                new Figures { Visits = h }
            )),
        ];
        string sort = ReportRows.UsualSort([.. rows.Split(',').Select(r => RowField.Parse(r)!)]);
        Assert.Equal(keys, string.Join(',', ReportRows.PageOf(hours, sort, "", _ => null, 1, 50).Rows.Select(r => r.Keys[0])));
    }

    [Fact]
    public void What_is_beyond_a_page_is_added_up_without_visitors()
    {
        var page = Page(size: 1);
        Assert.Equal((4, 3), (page.Found, page.RestRows));
        Assert.Equal((10L, 0L, 6L, 10m), (page.Rest!.Visits, page.Rest.Visitors, page.Rest.Bounces, page.Rest.Revenue));
        page = Page(page: 2, size: 3);
        Assert.Equal(["gone"], page.Rows.Select(r => r.Keys[0]));
        Assert.Null(page.Rest);
        Assert.Empty(Page(page: 9).Rows);
    }

    [Fact]
    public void Rows_are_found_by_their_keys_and_by_what_these_are_called()
    {
        Assert.Equal(["b"], Page(search: "bulb").Rows.Select(r => r.Keys[0]));
        Assert.Equal(["gone"], Page(search: "ON").Rows.Select(r => r.Keys[0]));
        Assert.Empty(Page(search: "nowhere").Rows);
    }

    [Theory]
    [InlineData("campaign", RowKind.Campaign, "")]
    [InlineData("LandingPage", RowKind.LandingPage, "")]
    [InlineData("attribute.region", RowKind.Attribute, "region")]
    [InlineData("part.utm_campaign.2", RowKind.Part, "utm_campaign.2")]
    [InlineData("sourceMedium", RowKind.SourceMedium, "")]
    public void Fields_have_the_names_of_the_calls(string text, RowKind kind, string name)
    {
        Assert.Equal(new RowField(kind, name), RowField.Parse(text));
        Assert.Equal(text, RowField.Parse(text)!.ToString(), ignoreCase: true);
    }

    [Theory]
    [InlineData("")]
    [InlineData("attribute")]
    [InlineData("attribute.")]
    [InlineData("source.x")]
    [InlineData("1")]
    [InlineData("colour")]
    public void Anything_else_is_no_field(string text) => Assert.Null(RowField.Parse(text));

    [Theory]
    [InlineData("source:is:a", "a", true)]
    [InlineData("source:is:a", "b", false)]
    [InlineData("source:is:", null, true)]
    [InlineData("source:not:a", null, true)]
    [InlineData("source:not:a", "a", false)]
    [InlineData("source:contains:EL", "trellis", true)]
    [InlineData("source:contains:EL", null, false)]
    [InlineData("landingPage:is:garden.localhost:5500/a", "garden.localhost:5500/a", true)]
    public void A_condition_holds_or_not(string condition, string? value, bool holds) =>
        Assert.Equal(holds, RowCondition.Parse(condition)!.Holds(value));

    [Theory]
    [InlineData("source:a")]
    [InlineData("source:like:a")]
    [InlineData("colour:is:a")]
    [InlineData(":is:a")]
    [InlineData("source:1:a")]
    public void Anything_else_is_no_condition(string text) => Assert.Null(RowCondition.Parse(text));

    [Fact]
    public void Values_of_one_of_are_gathered_and_other_conditions_all_hold()
    {
        var conditions = RowCondition.Gathered(
            new[] { "source:in:a", "source:not:x", "source:in:", "source:not:y" }.Select(t => RowCondition.Parse(t)!)
        );
        Assert.Equal(3, conditions.Count);
        Assert.True(conditions.All(c => c.Holds("a")));
        Assert.True(conditions.All(c => c.Holds(null)));
        Assert.False(conditions.All(c => c.Holds("b")));
    }

    [Theory]
    [InlineData("before", "2026-03-01", "2026-03-31", "2026-01-29", "2026-02-28")]
    [InlineData("yearBefore", "2028-02-29", "2028-03-01", "2027-02-28", "2027-03-01")]
    [InlineData("2025-01-01,2025-01-02", "2026-03-01", "2026-03-31", "2025-01-01", "2025-01-02")]
    public void A_report_is_compared_with_another_span(string word, string from, string to, string otherFrom, string otherTo) =>
        Assert.Equal((Day(otherFrom), Day(otherTo)), ComparedSpan.Of(word, Day(from), Day(to)));

    [Theory]
    [InlineData("")]
    [InlineData("lately")]
    [InlineData("2025-01-02,2025-01-01")]
    [InlineData("2025-1-2,2025-01-03")]
    public void Other_words_are_no_span(string word) => Assert.Null(ComparedSpan.Of(word, Day("2026-03-01"), Day("2026-03-31")));

    /// <summary>ISO 8601: weeks begin on Monday. The 29th of November 2026 is a Sunday.</summary>
    [Theory]
    [InlineData(RowKind.Day, "2026-11-29", "2026-11-29")]
    [InlineData(RowKind.Week, "2026-11-29", "2026-11-23")]
    [InlineData(RowKind.Week, "2026-11-23", "2026-11-23")]
    [InlineData(RowKind.Month, "2026-11-29", "2026-11-01")]
    [InlineData(RowKind.Weekday, "2026-11-29", "7")]
    [InlineData(RowKind.Weekday, "2026-11-23", "1")]
    public void Days_gather_by_the_calendar(RowKind kind, string day, string name) => Assert.Equal(name, Calendar.NameOf(kind, Day(day)));

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
}
