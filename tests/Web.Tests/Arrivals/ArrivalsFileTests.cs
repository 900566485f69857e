using System.Globalization;
using System.Text.Json.Nodes;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>A report as a file says what the screen says, numbers as numbers.</summary>
[Collection(nameof(DemoHost))]
public sealed class ArrivalsFileTests(DemoHost demo)
{
    private const string Asked = "rows=campaign,source&measures=clicks,visits,conversionRate,revenue&compare=before&sort=-revenue";

    [Fact]
    public async Task Csv_has_every_row_of_the_report()
    {
        using var viewer = demo.Host.As("viewer");
        string text = await viewer.GetStringAsync($"/api/v1/arrivals.csv?{Asked}");
        var table = Core.Batches.TableText.Read(text.TrimStart('\uFEFF'), ',');
        List<string[]> rows =
        [
            [.. table.Headings],
            .. table.Rows.Select(r => (string[])[.. r]),
        ];
        Assert.Equal(
            [
                "campaign",
                "campaign name",
                "source",
                "Clicks",
                "Visits",
                "Conversion rate",
                "Revenue",
                "Clicks, before",
                "Visits, before",
                "Conversion rate, before",
                "Revenue, before",
                "Currency",
            ],
            rows[0]
        );
        var report = await demo.Host.GetJsonAsync($"/api/v1/arrivals?{Asked}&size=5000");
        Assert.Equal("Everything", rows[1][0]);
        Assert.Equal(FiguresOf(report["total"]!), rows[1][3..7]);
        Assert.Equal(report["rows"]!.AsArray().Count, rows.Count - 2);
        foreach (var (row, line) in report["rows"]!.AsArray().Zip(rows.Skip(2)))
        {
            Assert.Equal(row!["keys"]![0]?.GetValue<string>() ?? "", line[0]);
            Assert.Equal(row["keys"]![1]?.GetValue<string>() ?? "", line[2]);
            Assert.Equal(FiguresOf(row["figures"]!), line[3..7]);
            Assert.Equal(FiguresOf(row["before"]!), line[7..11]);
            Assert.Equal("EUR", line[11]);
        }
    }

    [Fact]
    public async Task Campaigns_side_by_side_have_a_column_each()
    {
        const string asked = "rows=source&measures=visits,clicks&compare=campaigns:Bulb%20Sale,Lantern%20Nights";
        using var viewer = demo.Host.As("viewer");
        var table = Core.Batches.TableText.Read((await viewer.GetStringAsync($"/api/v1/arrivals.csv?{asked}")).TrimStart('\uFEFF'), ',');
        Assert.Equal(
            ["source", "Visits, Bulb Sale", "Clicks, Bulb Sale", "Visits, Lantern Nights", "Clicks, Lantern Nights", "Currency"],
            table.Headings
        );
        var report = await demo.Host.GetJsonAsync($"/api/v1/arrivals?{asked}&size=5000");
        var rows = report["rows"]!.AsArray();
        Assert.Equal(rows.Count + 1, table.Rows.Count);
        Assert.Equal(["Everything", .. report["campaigns"]!.AsArray().SelectMany(c => Two(c!["total"]!)), "EUR"], table.Rows[0]);
        foreach (var (row, line) in rows.Zip(table.Rows.Skip(1)))
        {
            Assert.Equal([row!["keys"]![0]?.GetValue<string>() ?? "", .. Two(row["figures"]!), .. Two(row["beside"]![0]!), "EUR"], line);
        }

        static string[] Two(JsonNode figures) => [Number(figures["visits"]), Number(figures["clicks"])];
    }

    [Fact]
    public async Task A_workbook_has_numbers_and_what_was_asked_for()
    {
        using var viewer = demo.Host.As("viewer");
        await using var file = await viewer.GetStreamAsync($"/api/v1/arrivals.xlsx?{Asked}&where=device:is:phone");
        using var memory = new MemoryStream();
        await file.CopyToAsync(memory);
        using var document = SpreadsheetDocument.Open(memory, isEditable: false);
        var workbook = document.WorkbookPart!;
        var sheets = workbook.Workbook.Descendants<Sheet>().ToList();
        Assert.Equal(["Rows", "About"], sheets.Select(s => s.Name!.Value));
        var all = CellsOf(0)[1];
        var report = await demo.Host.GetJsonAsync($"/api/v1/arrivals?{Asked}&where=device:is:phone");
        Assert.Equal(report["total"].Whole("visits").ToString(CultureInfo.InvariantCulture), all[4].CellValue!.Text);
        Assert.Null(all[4].DataType);
        var formats = workbook.WorkbookStylesPart!.Stylesheet.CellFormats!.Elements<CellFormat>().ToList();
        Assert.Equal(10u, formats[(int)all[5].StyleIndex!.Value].NumberFormatId!.Value); // per cent: ISO/IEC 29500-1, 18.8.30
        Assert.Equal(4u, formats[(int)all[6].StyleIndex!.Value].NumberFormatId!.Value);
        Assert.Contains(CellsOf(1), r => r[0].InnerText == "Filter" && r[1].InnerText == "device:is:phone");

        List<List<Cell>> CellsOf(int sheet) =>
            [
                .. ((WorksheetPart)workbook.GetPartById(sheets[sheet].Id!.Value!))
                    .Worksheet.Descendants<Row>()
                    .Select(r => r.Elements<Cell>().ToList()),
            ];
    }

    [Fact]
    public async Task What_a_report_refuses_its_files_refuse_too()
    {
        using var viewer = demo.Host.As("viewer");
        foreach (string kind in new[] { "csv", "xlsx" })
        {
            var (status, refused) = await viewer.CallAsync(HttpMethod.Get, $"/api/v1/arrivals.{kind}?rows=shelf");
            Assert.Equal((System.Net.HttpStatusCode.BadRequest, "rows-refused"), (status, refused.Refusal().Rule));
        }
    }

    private static string[] FiguresOf(JsonNode figures) =>
        [
            Number(figures["clicks"]),
            Number(figures["visits"]),
            figures["conversionRate"] is { } rate
                ? Math.Round(rate.GetValue<decimal>(), 6).ToString("0.######", CultureInfo.InvariantCulture)
                : "",
            figures["revenue"]!["amount"]!.GetValue<string>(),
        ];

    private static string Number(JsonNode? number) => number?.GetValue<long>().ToString(CultureInfo.InvariantCulture) ?? "";

    [Theory]
    [InlineData("")]
    [InlineData("&rows=country&stations=visits,stayed&columns=&title=Autumn&where=medium:not:print")]
    [InlineData("&rows=link&compare=yearBefore&series=month")]
    [InlineData("&rows=")]
    [InlineData("&compare=campaigns:Bulb%20Sale,Lantern%20Nights&rows=campaign&where=medium:not:print")]
    [InlineData("&compare=campaigns:Bulb%20Sale,Lantern%20Nights&rows=day&stations=visitors")]
    public async Task A_report_is_printed(string more)
    {
        using var viewer = demo.Host.As("viewer");
        using var answer = await viewer.GetAsync($"/api/v1/arrivals.pdf?from=2026-01-01{more}");
        byte[] file = await answer.Content.ReadAsByteArrayAsync();
        Assert.True(answer.IsSuccessStatusCode, System.Text.Encoding.UTF8.GetString(file));
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType!.MediaType);
        Assert.Equal("%PDF-"u8.ToArray(), file[..5]);
    }

    [Theory]
    [InlineData("stations=clicks,visits,stayed,conversions,revenue,events,pageViews", "figures-many")]
    [InlineData("stations=", "figures-many")]
    [InlineData("columns=visitors,scans,bounces,events", "figures-many")]
    [InlineData("rows=nonsense", "rows-refused")]
    [InlineData("compare=campaigns:a,b", "campaign-unknown")]
    public async Task What_has_no_room_on_paper_is_refused(string asked, string rule)
    {
        using var viewer = demo.Host.As("viewer");
        Assert.Equal(rule, (await viewer.CallAsync(HttpMethod.Get, $"/api/v1/arrivals.pdf?{asked}")).Json.Refusal().Rule);
    }
}
