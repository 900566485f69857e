using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>What rows and figures are called on paper: by the tables the interface is tested by too.</summary>
public sealed class ReportTextTests
{
    private static readonly Figures Figures = new()
    {
        Clicks = 200,
        VisitsByLink = 180,
        Visits = 1_250,
        Visitors = 1_000,
        PageViews = 3_000,
        Bounces = 500,
        Seconds = 94_250,
        ConvertingVisits = 50,
        Conversions = 60,
        VerifiedConversions = 20.5m,
        OtherConversions = 57.3m,
        OtherRevenue = 887.7m,
        Revenue = 900m,
        Refunds = 25m,
        Cost = 600m,
        Others = new OtherFigures(Shown: 240_000, Sent: 1_900, Delivered: 1_870),
    };

    public static TheoryData<string, string?, string> Rows()
    {
        var data = new TheoryData<string, string?, string>();
        foreach (var row in SharedTable.Read("rowNames.json").EnumerateArray())
        {
            data.Add(row[0].GetString()!, row[1].GetString(), row[2].GetString()!);
        }

        return data;
    }

    [Theory]
    [MemberData(nameof(Rows))]
    public void A_row_is_called_as_on_the_screen(string row, string? key, string name) =>
        Assert.Equal(name, RowNames.Of(RowField.Parse(row)!, key));

    [Theory]
    [InlineData("country", "1!", "1!")]
    [InlineData("language", "not a code", "not a code")]
    [InlineData("weekday", "9", "9")]
    [InlineData("day", "soon", "soon")]
    public void What_is_no_code_stays(string row, string key, string name) => Assert.Equal(name, RowNames.Of(RowField.Parse(row)!, key));

    [Fact]
    public void A_row_is_called_by_its_name_where_its_key_is_an_id() =>
        Assert.Equal("Header button", RowNames.Of(RowField.Parse("link")!, "7", "Header button"));

    [Fact]
    public void Figures_read_as_on_the_screen()
    {
        var table = SharedTable.Read("figureTexts.json");
        foreach (var text in table.GetProperty("texts").EnumerateArray())
        {
            string measure = text[0].GetString()!;
            Assert.Equal(text[1].GetString(), FigureText.Of(measure, ReportRows.SizeOf(measure, Figures), "GBP"));
        }

        foreach (var between in table.GetProperty("between").EnumerateArray())
        {
            Assert.Equal(between[2].GetString(), FigureText.Between(between[0].GetString()!, between[1].GetString()!, Figures, "GBP"));
        }

        foreach (var difference in table.GetProperty("differences").EnumerateArray())
        {
            Assert.Equal(difference[2].GetString(), FigureText.Difference(difference[0].GetDecimal(), difference[1].GetDecimal()));
        }
    }

    [Fact]
    public void Figures_are_called_and_chosen_as_on_the_screen()
    {
        var table = SharedTable.Read("figureTexts.json");
        Assert.Equal(
            table.GetProperty("labels").EnumerateObject().Select(l => (l.Name, l.Value.GetString()!)).Order(),
            ReportRows.MeasureNames.Select(m => (m, FigureText.LabelOf(m))).Order()
        );
        Assert.Equal(
            table.GetProperty("sums").EnumerateArray().Select(m => m.GetString()).Order(),
            ReportRows.MeasureNames.Where(FigureText.IsSum).Order()
        );
        var usual = table.GetProperty("usual");
        Assert.Equal(usual.GetProperty("stations").EnumerateArray().Select(m => m.GetString()), FigureText.UsualStations);
        Assert.Equal(usual.GetProperty("columns").EnumerateArray().Select(m => m.GetString()), FigureText.UsualColumns);
    }

    [Fact]
    public void Fields_are_called_as_on_the_screen()
    {
        var rows = SharedTable
            .Read("rowLabels.json")
            .EnumerateArray()
            .Select(r => r.EnumerateArray().Select(t => t.GetString()!).ToArray());
        Assert.All(rows, row =>
        {
            var field = RowField.Parse(row[0])!;
            Assert.Equal((row[1], row[2]), (RowNames.LabelOf(field), RowNames.Of(field, null)));
        });
        Assert.Equal(41, rows.Count());
    }

    [Theory]
    [InlineData("visits", true)]
    [InlineData("clicks", true)]
    [InlineData("visitors", false)] // somebody comes on several days
    [InlineData("revenue", false)]
    [InlineData("bounceRate", false)]
    public void Only_what_adds_up_has_a_mean_of_a_day(string measure, bool sum)
    {
        Assert.Equal(sum, FigureText.IsSum(measure));
        Assert.Equal("2.5 a day", FigureText.EachDay(5, 2));
        Assert.Equal("1,000 a day", FigureText.EachDay(30_000, 30));
    }

    [Theory]
    [InlineData("revenue", "-5", "EUR", "-€5.00")]
    [InlineData("revenue", "1234567.005", "EUR", "€1,234,567.00")] // half to even
    [InlineData("revenue", "12", "JPY", "JPY 12")]
    [InlineData("revenue", "1.2345", "KWD", "KWD 1.234")]
    [InlineData("bounceRate", "0.12345", "EUR", "12.3 %")]
    [InlineData("secondsPerVisit", "59.5", "EUR", "1:00")]
    public void Money_has_its_currencys_decimals(string measure, string size, string currency, string says) =>
        Assert.Equal(says, FigureText.Of(measure, decimal.Parse(size, System.Globalization.CultureInfo.InvariantCulture), currency));

    [Fact]
    public void What_is_not_known_is_a_dash_and_compares_with_nothing()
    {
        Assert.Equal("–", FigureText.Of("clicks", null, "EUR"));
        Assert.Equal("", FigureText.Difference(null, 5));
        Assert.Equal("", FigureText.Difference(5, null));
        foreach (
            var (before, measure) in new[]
            {
                ("clicks", "visits"),
                ("visits", "stayed"),
                ("stayed", "convertingVisits"),
                ("convertingVisits", "revenue"),
            }
        )
        {
            Assert.Equal("", FigureText.Between(before, measure, Figures.Zero, "EUR"));
        }
    }
}
