using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Proofs.Reconciling;

namespace PreciseBeacon.CoreTests.Proofs.Reconciling;

public sealed class FigureSheetTests
{
    private static readonly Convention Convention = new(
        1,
        [new Field { Key = "utm_source", Label = "Source" }, new Field { Key = "utm_campaign", Label = "Campaign" }],
        new LinkSettings()
    );
    private static readonly DateOnly Today = new(2026, 12, 2);

    private static Table Of(string heads, params string[] rows) => new(heads.Split('|'), [.. rows.Select(r => r.Split('|'))]);

    private static List<FigureRow> Read(Table table) =>
        [.. FigureSheet.Read(table, FigureRecipe.Guess(table, Convention), Convention, Today)];

    [Fact]
    public void Headings_say_what_columns_hold()
    {
        var recipe = FigureRecipe.Guess(Of("Date|Campaign name|utm_source|Impressions|Link clicks|Orders|Note"), Convention);
        Assert.Equal(
            ("Date", "Campaign name", "Impressions", "Link clicks", "Orders", "utm_source"),
            (recipe.Day, recipe.Campaign, recipe.Shown, recipe.Clicks, recipe.Conversions, recipe.Values!["utm_source"])
        );
        Assert.Null(recipe.MissingIn(Of("Date|Campaign name|utm_source|Impressions|Link clicks|Orders")));
        Assert.Equal("Orders", recipe.MissingIn(Of("Date|Campaign name|utm_source|Impressions|Link clicks")));
    }

    [Fact]
    public void Rows_are_read_with_all_their_figures()
    {
        var rows = Read(
            Of("Day|Campaign|Shown|Clicks|Conversions", "30.11.2026|Bulb Sale|12,400|1.240|2,5", "||||", "2026-11-29|Bulb Sale|–|7|-")
        );
        Assert.Equal([2, 4], rows.Select(r => r.Number));
        Assert.All(rows, r => Assert.Null(r.Problem));
        Assert.Equal(new OtherFigures(Shown: 12_400, Clicks: 1_240, Conversions: 2.5m), rows[0].Figures);
        Assert.Equal(new OtherFigures(Clicks: 7), rows[1].Figures);
        Assert.Equal(new DateOnly(2026, 11, 30), rows[0].Day);
    }

    [Theory]
    [InlineData("|Bulb Sale|1", ImportProblem.DayMissing)]
    [InlineData("soon|Bulb Sale|1", ImportProblem.DayUnreadable)]
    [InlineData("2026-12-03|Bulb Sale|1", ImportProblem.DayToCome)]
    [InlineData("2026-11-30||1", ImportProblem.TargetMissing)]
    [InlineData("2026-11-30|Bulb Sale|", ImportProblem.FiguresMissing)]
    [InlineData("2026-11-30|Bulb Sale|1.5", ImportProblem.CountUnreadable)]
    [InlineData("2026-11-30|Bulb Sale|-4", ImportProblem.CountNegative)]
    [InlineData("2026-11-30|Bulb Sale|12 %", ImportProblem.CountUnreadable)]
    [InlineData("2026-11-30|Bulb Sale|=1+1", ImportProblem.CountUnreadable)]
    public void A_row_that_cannot_be_used_says_why(string row, ImportProblem problem) =>
        Assert.Equal(problem, Assert.Single(Read(Of("Day|Campaign|Clicks", row))).Problem);

    [Theory]
    [InlineData("0", 0)]
    [InlineData("1234", 1234)]
    [InlineData(" 1 234 ", 1234)]
    [InlineData("1,234,567", 1234567)]
    [InlineData("1.234", 1234)]
    [InlineData("1’234", 1234)]
    [InlineData("1234.0", 1234)]
    [InlineData("1,234.00", 1234)]
    [InlineData("1000000000000", 1000000000000)]
    public void Counts_are_read_as_they_are_written(string text, long count) => Assert.Equal((count, null), CountColumn.Read(text));

    [Theory]
    [InlineData("1,23")]
    [InlineData("12,34,567")]
    [InlineData("1000000000001")]
    [InlineData("99999999999999999999999")]
    [InlineData("many")]
    [InlineData("1e3")]
    public void What_is_no_count_is_none(string text) => Assert.Equal(ImportProblem.CountUnreadable, CountColumn.Read(text).Problem);
}
