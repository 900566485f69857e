using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

public sealed class NamedMeasureTests
{
    [Theory]
    [InlineData("conversions:ticket", NamedThing.Conversions, "ticket")]
    [InlineData("Events:map opened", NamedThing.Events, "map opened")]
    [InlineData("events:a%2Cb 50%25 off", NamedThing.Events, "a,b 50% off")]
    [InlineData("events:50%2525", NamedThing.Events, "50%25")]
    [InlineData("conversions:éclair: 1", NamedThing.Conversions, "éclair: 1")]
    public void What_a_figure_counts(string measure, NamedThing of, string name) =>
        Assert.Equal(new NamedMeasure(of, name), NamedMeasure.Parse(measure));

    [Theory]
    [InlineData("conversions")]
    [InlineData("conversions:")]
    [InlineData("visits")]
    [InlineData("visits:ticket")]
    [InlineData("")]
    public void Other_figures_are_none(string measure) => Assert.Null(NamedMeasure.Parse(measure));

    /// <summary>Whatever a page names, a list of figures with commas between gives it back.</summary>
    [Fact]
    public void Every_name_comes_back_from_a_list()
    {
        var random = new Random(5);
        const string Signs = "a,%2C5 :-é世\"";
        for (int i = 0; i < 2_000; i++)
        {
            string name = new([.. Enumerable.Range(0, random.Next(1, 12)).Select(_ => Signs[random.Next(Signs.Length)])]);
            var measures = new[] { new NamedMeasure(NamedThing.Events, name), new NamedMeasure(NamedThing.Conversions, name) };
            Assert.Equal(measures, string.Join(',', measures.Select(m => m.ToString())).Split(',').Select(m => NamedMeasure.Parse(m)!));
        }
    }

    [Fact]
    public void Rows_are_ordered_by_it()
    {
        Assert.True(ReportRows.CanSortBy("-conversions:ticket"));
        var rows = new[] { ("a", 3L), ("b", 8L), ("c", 5L) }.Select(r => new ReportRow(
            [r.Item1],
            Figures.Zero with
            {
                Named = new Dictionary<string, decimal> { ["conversions:ticket"] = r.Item2 },
            }
        ));
        var page = ReportRows.PageOf([.. rows], "-conversions:ticket", "", _ => null, 1, 2);
        Assert.Equal(["b", "c"], page.Rows.Select(r => r.Keys[0]));
        Assert.Equal(3, ReportRows.SizeOf("Conversions:ticket", page.Rest!));
        Assert.Equal(0, ReportRows.SizeOf("conversions:adoption", page.Rest!));
        Assert.Equal(
            ("ticket", "8", true),
            (
                FigureText.LabelOf("conversions:ticket"),
                FigureText.Of("conversions:ticket", 8, "EUR"),
                FigureText.IsSum("conversions:ticket")
            )
        );
    }
}
