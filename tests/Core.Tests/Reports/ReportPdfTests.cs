using System.Text;
using PreciseBeacon.Core.Reports.Printing;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>A report as a file to print: one or two pages, whatever is in it.</summary>
public sealed class ReportPdfTests
{
    private static readonly DateTimeOffset Now = new(2026, 11, 30, 9, 0, 0, TimeSpan.Zero);

    private static PrintedRow Row(string name, decimal? size) =>
        new(
            name,
            "2026-11_row",
            [new PrintedFigure($"{size}", size, "", "", size / 2), new PrintedFigure("5", 5, "50.0 %", "+5.0 %", null)],
            [new PrintedFigure("1:30", 90, "", "−2.0 %", 95)]
        );

    private static PrintedReport Report(int rows, string title = "Autumn so far", int points = 30, int notes = 0) =>
        new(
            "Marrowmere Botanic Garden",
            title,
            ["1 Nov 2026 to 30 Nov 2026, 9,000 visits", "Only visits where source is the_trellis"],
            [.. Enumerable.Range(0, points).Select(i => ($"{i} Nov 2026", (long)i))],
            "campaign",
            ["Visits", "Stayed"],
            ["Time per visit"],
            [Row("Everything", 900), .. Enumerable.Range(0, rows).Select(i => Row($"Row {i}", i == 0 ? null : i))],
            "12 more rows: 40 visits together.",
            [.. Enumerable.Range(0, notes).Select(i => $"{i} Nov 2026: a note")],
            "Made on 30 Nov 2026"
        );

    private static int PagesOf(byte[] pdf) => Encoding.Latin1.GetString(pdf).Split("/Type /Page\n").Length - 1;

    [Theory]
    [InlineData(0, 1)]
    [InlineData(10, 1)]
    [InlineData(ReportPdf.MostRows - 1, 2)]
    public void A_report_has_one_or_two_pages(int rows, int pages)
    {
        byte[] pdf = ReportPdf.Draw(Report(rows, notes: 3), Now, CancellationToken.None);
        Assert.StartsWith("%PDF-", Encoding.Latin1.GetString(pdf, 0, 8), StringComparison.Ordinal);
        Assert.Equal(pages, PagesOf(pdf));
    }

    [Theory]
    [InlineData("")]
    [InlineData("\u0627\u0644\u062e\u0631\u064a\u0641 \u79cb \ud83c\udf42")]
    public void Any_title_can_be_printed(string title) =>
        Assert.Equal(1, PagesOf(ReportPdf.Draw(Report(2, title + new string('x', 200), points: 0), Now, CancellationToken.None)));

    /// <summary>Each is a line that begins at the edge; one that lasted a day is a name alone.</summary>
    [Theory]
    [InlineData(1, 1)]
    [InlineData(6, 90)]
    public void Courses_of_several_campaigns_are_drawn_over_each_other(int campaigns, int days)
    {
        var report = Report(5) with
        {
            Stations = [],
            Columns = [.. Enumerable.Range(0, campaigns).Select(i => $"Campaign {i} with a very long name")],
            Rows =
            [
                new PrintedRow("Everything", "", [], [.. Enumerable.Repeat(new PrintedFigure("1", 1, "", "2.5 a day", null), campaigns)]),
            ],
            Courses =
            [
                .. Enumerable
                    .Range(0, campaigns)
                    .Select(i => new PrintedCourse(
                        $"Campaign {i}",
                        [.. Enumerable.Range(0, Math.Max(1, days - (i * 10))).Select(d => (long)d * i)]
                    )),
            ],
        };
        byte[] with = ReportPdf.Draw(report, Now, CancellationToken.None);
        Assert.Equal(1, PagesOf(with));
        Assert.NotEqual(with.Length, ReportPdf.Draw(report with { Courses = [] }, Now, CancellationToken.None).Length);
    }

    [Fact]
    public void The_same_report_makes_the_same_file() =>
        Assert.Equal(ReportPdf.Draw(Report(3), Now, CancellationToken.None), ReportPdf.Draw(Report(3), Now, CancellationToken.None));

    [Fact]
    public void A_text_of_a_million_letters_takes_no_longer_than_its_line()
    {
        string endless = new('x', 1_000_000);
        var report = Report(20, endless) with { Lines = [endless, string.Join(' ', Enumerable.Repeat("word", 1_000))] };
        var begun = System.Diagnostics.Stopwatch.StartNew();
        Assert.InRange(PagesOf(ReportPdf.Draw(report, Now, CancellationToken.None)), 1, 2);

        // Letter by letter it would take minutes; this only tells the two apart.
        Assert.InRange(begun.Elapsed.TotalSeconds, 0, 60);
    }
}
