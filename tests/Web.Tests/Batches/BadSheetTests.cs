using System.Diagnostics;
using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using MiniExcelLibs;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>What people really bring, as files: read right, or refused at the door with the limit named, and nothing is stored.</summary>
[Collection(nameof(DemoHost))]
public sealed class BadSheetTests(DemoHost demo)
{
    private const string Page = "https://marrowmere.example/visit";

    private async Task<(HttpStatusCode Status, JsonNode Json)> BringAsync(byte[] file, string name = "sheet.csv")
    {
        using var client = demo.Host.As("editor");
        client.Timeout = TimeSpan.FromMinutes(5); // ten million cells, on a machine that does other things too
        using var form = new MultipartFormDataContent { { new ByteArrayContent(file), "file", name } };
        using var answer = await client.PostAsync("/api/v1/batches", form);
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }

    private async Task<JsonNode> RowsAsync(byte[] file, string name = "sheet.csv")
    {
        var (status, made) = await BringAsync(file, name);
        Assert.True(status == HttpStatusCode.Created, made.ToString());
        using var client = demo.Host.As("editor");
        var batch = await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{made.Text("id")}");
        batch["rows"] = (await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{made.Text("id")}/rows?most=500"))["rows"]!.DeepClone();
        return batch;
    }

    private static string[] Cells(JsonNode batch, int row) =>
        [.. batch["rows"]![row]!["cells"]!.AsArray().Select(c => c!.GetValue<string>())];

    [Theory]
    [InlineData("utf8", ",")]
    [InlineData("utf8Marked", ";")]
    [InlineData("utf16Little", "\t")]
    [InlineData("utf16Big", ";")]
    [InlineData("windows1252", "|")]
    public async Task Encodings_separators_quotes_and_short_rows_are_read_right(string encoding, string separator)
    {
        string text =
            string.Join(
                    "\r\n",
                    new[] { "No|Page|No||Gärten", $"007|{Page}|\"say \"\"hé\"\"\"|=1+1", "", $"008|{Page}|@x|-5|+3|beyond", "9" }
                )
                .Replace("|", separator, StringComparison.Ordinal) + "\r\n";
        var batch = await RowsAsync(FileText.Encode(text, Enum.Parse<FileEncoding>(encoding, ignoreCase: true)));
        Assert.Equal((encoding, separator), (batch["reading"].Text("encoding"), batch["reading"].Text("separator")));
        Assert.Equal(["No", "Page", "No (2)", "Column 4", "Gärten"], batch["columns"]!.AsArray().Select(c => c!.GetValue<string>()));
        Assert.Equal(["007", Page, "say \"hé\"", "=1+1"], Cells(batch, 0));
        Assert.Equal(["008", Page, "@x", "-5", "+3", "beyond"], Cells(batch, batch["rows"]!.AsArray().Count - 2));
        Assert.Equal(["9"], Cells(batch, batch["rows"]!.AsArray().Count - 1));
    }

    [Fact]
    public async Task A_workbooks_dates_zeros_and_long_numbers_are_read_as_they_are_shown_enough_to_be_told_apart()
    {
        using var file = new MemoryStream();
        file.SaveAs(
            new[]
            {
                new Dictionary<string, object>
                {
                    ["No"] = "007",
                    ["Page"] = Page,
                    ["Day"] = new DateTime(2026, 3, 1),
                    ["Bid"] = 0.35,
                    ["Long"] = "12345678901234567890",
                    ["On"] = true,
                },
            }
        );
        Assert.Equal(
            ["007", Page, "2026-03-01", "0.35", "12345678901234567890", "TRUE"],
            Cells(await RowsAsync(file.ToArray(), "ads.xlsx"), 0)
        );
    }

    [Fact]
    public async Task What_is_over_a_limit_is_refused_with_the_limit_named()
    {
        var long_ = new StringBuilder("Page\r\n");
        for (int i = 0; i <= 200_000; i++)
        {
            long_.Append("a\r\n");
        }

        await RefusedAsync(Encoding.ASCII.GetBytes(long_.ToString()), HttpStatusCode.UnprocessableEntity, "200,000 rows");
        await RefusedAsync(
            Encoding.ASCII.GetBytes($"Page\r\n{new string('x', (1 << 20) + 1)}\r\n"),
            HttpStatusCode.UnprocessableEntity,
            "million characters"
        );
        await RefusedAsync(
            Encoding.ASCII.GetBytes(string.Join(',', Enumerable.Range(1, 501)) + "\r\n"),
            HttpStatusCode.UnprocessableEntity,
            "500 columns"
        );
        await RefusedAsync(new byte[(50 << 20) + 1], HttpStatusCode.RequestEntityTooLarge, "50 MB");

        async Task RefusedAsync(byte[] file, HttpStatusCode wanted, string says)
        {
            long before = await demo.Host.ScalarAsync<long>("select count(*) from batches");
            var (status, problem) = await BringAsync(file);
            Assert.Equal(wanted, status);
            Assert.Contains(says, problem.Refusal().Says, StringComparison.Ordinal);
            Assert.Equal(before, await demo.Host.ScalarAsync<long>("select count(*) from batches"));
        }
    }

    [Fact]
    public async Task A_cell_of_a_megabyte_and_a_file_of_thirty_are_taken()
    {
        string big = new('x', 1 << 20);
        Assert.Equal(big, Cells(await RowsAsync(Encoding.ASCII.GetBytes($"Page,Note\r\n{Page},{big}\r\n")), 0)[1]);

        var sheet = new StringBuilder("No,Page,Note\r\n");
        string note = new('n', 400);
        for (int i = 0; i < 70_000; i++)
        {
            sheet.Append(CultureInfo.InvariantCulture, $"{i:D6},{Page}?i={i},{note}\r\n");
        }

        var batch = await RowsAsync(Encoding.ASCII.GetBytes(sheet.ToString()));
        Assert.Equal(70_000, batch.Whole("total"));
        Assert.Equal("000499", Cells(batch, 499)[0]);
    }

    [Theory]
    [InlineData("%PDF-1.7\0\0", "sheet.csv")]
    [InlineData("PK\u0003\u0004 not a workbook", "sheet.xlsx")]
    [InlineData("\u0089PNG\r\n\u001a\n\0\0\0", "sheet.xlsx")]
    public async Task A_file_that_is_not_what_its_name_says_is_refused(string content, string name)
    {
        var (status, problem) = await BringAsync(Encoding.Latin1.GetBytes(content), name);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.EndsWith(".", problem.Refusal().Says, StringComparison.Ordinal);
    }

    /// <summary>A workbook written by hand: what lies between its cells is nothing, and takes no time.</summary>
    private static byte[] Workbook(IEnumerable<string> rows, string dimension = "A1")
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            Add(
                "[Content_Types].xml",
                [
                    """<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>""",
                ]
            );
            Add(
                "_rels/.rels",
                [
                    """<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>""",
                ]
            );
            Add(
                "xl/workbook.xml",
                [
                    """<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Ferns" sheetId="1" r:id="r1"/></sheets></workbook>""",
                ]
            );
            Add(
                "xl/_rels/workbook.xml.rels",
                [
                    """<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>""",
                ]
            );
            Add(
                "xl/worksheets/sheet1.xml",
                rows.Prepend(
                        $"""<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><dimension ref="{dimension}"/><sheetData>"""
                    )
                    .Append("</sheetData></worksheet>")
            );
            void Add(string name, IEnumerable<string> parts)
            {
                using var writer = new StreamWriter(zip.CreateEntry(name, CompressionLevel.Fastest).Open());
                foreach (string part in parts)
                {
                    writer.Write(part);
                }
            }
        }

        return file.ToArray();
    }

    private static string Text(string reference, string text) => $"""<c r="{reference}" t="inlineStr"><is><t>{text}</t></is></c>""";

    [Theory]
    [InlineData("XFD1048576", "“Ferns” has more than 500 columns")]
    [InlineData("A1048576", "“Ferns” has more than 200,000 rows")]
    [InlineData("XFD2", "“Ferns” has more than 500 columns")]
    public async Task Two_cells_at_opposite_ends_are_refused_at_once_with_the_sheet_and_the_limit_named(string far, string says)
    {
        string row = new([.. far.SkipWhile(char.IsAsciiLetter)]);
        var began = Stopwatch.GetTimestamp();
        var (status, problem) = await BringAsync(
            Workbook([$"""<row r="1">{Text("A1", "Page")}</row>""", $"""<row r="{row}">{Text(far, "far")}</row>"""], "A1:XFD1048576"),
            "far.xlsx"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(says, problem.Refusal().Says, StringComparison.Ordinal);
        Assert.DoesNotContain("convention", problem.Refusal().Says, StringComparison.OrdinalIgnoreCase);
        Assert.True(Stopwatch.GetElapsedTime(began) < TimeSpan.FromSeconds(30)); // an instant on an idle machine; it took minutes
    }

    [Fact]
    public async Task Rows_between_others_stay_and_rows_after_the_last_are_nothing()
    {
        var empty = Enumerable.Range(6, 100_000).Select(i => $"""<row r="{i}" spans="1:1"><c r="A{i}" s="0"/></row>""");
        var batch = await RowsAsync(
            Workbook([
                $"""<row r="1">{Text("A1", "Page")}{Text("C1", "Note")}</row>""",
                $"""<row r="3">{Text("C3", "a")}</row>""",
                $"""<row r="5">{Text("A5", Page)}</row>""",
                .. empty,
            ]),
            "gaps.xlsx"
        );
        Assert.Equal(4, batch.Whole("total"));
        Assert.Equal(
            [
                [],
                ["", "", "a"],
                [],
                [Page],
            ],
            Enumerable.Range(0, 4).Select(i => Cells(batch, i))
        );
        Assert.Equal(["Page", "Column 2", "Note"], batch["columns"]!.AsArray().Select(c => c!.GetValue<string>()));
    }

    /// <summary>What is promised: 200,000 rows of 50 columns in a file of less than 50 MB, in memory that does not grow with it.</summary>
    [Fact]
    public async Task Two_hundred_thousand_rows_of_fifty_columns_are_taken_in_flat_memory()
    {
        const int Rows = 200_000;
        byte[] file = Workbook(
            Enumerable
                .Range(1, Rows + 1)
                .Select(row =>
                {
                    var line = new StringBuilder($"<row r=\"{row}\">");
                    for (int column = 0; column < 50; column++)
                    {
                        _ =
                            row == 1
                                ? line.Append(Text(BatchResult.LetterOf(column) + "1", column == 0 ? "Page" : $"c{column}"))
                                : line.Append("<c><v>").Append(row + column).Append("</v></c>");
                    }

                    return line.Append("</row>").ToString();
                })
        );
        Assert.True(file.Length < 50 << 20, $"{file.Length >> 20} MB");
        var watching = new CancellationTokenSource();
        long before = Alive(),
            most = 0;
        var watch = Task.Run(async () =>
        {
            // Seldom: everything stands still while it is counted.
            for (int seconds = 2; !watching.IsCancellationRequested; seconds *= 2)
            {
                await Task.Delay(TimeSpan.FromSeconds(seconds), watching.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
                most = Math.Max(most, Alive());
            }
        });
        var (status, made) = await BringAsync(file, "promise.xlsx");
        await watching.CancelAsync();
        await watch;
        Assert.Equal(HttpStatusCode.Created, status);
        using var client = demo.Host.As("editor");
        var batch = await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{made.Text("id")}");
        Assert.Equal((Rows, 50), (batch.Whole("total"), batch["columns"]!.AsArray().Count));
        Assert.True(most - before < 100L << 20, $"{(most - before) >> 20} MB more were alive"); // 5 MB alone; other tests run beside it

        // What waits to be collected is not counted: how much that is depends on the machine and on other tests.
        static long Alive()
        {
            GC.Collect(GC.MaxGeneration, GCCollectionMode.Forced, blocking: true);
            return GC.GetGCMemoryInfo(GCKind.FullBlocking).HeapSizeBytes;
        }
    }

    [Fact]
    public async Task A_sheet_of_more_cells_than_are_promised_is_refused_as_soon_as_they_are_counted()
    {
        string line = string.Join(',', Enumerable.Repeat("7", 400)) + "\n";
        var (status, problem) = await BringAsync(Encoding.ASCII.GetBytes(string.Concat(Enumerable.Repeat(line, 25_100))));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("10,000,000 cells", problem.Refusal().Says, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_sheet_of_millions_of_rows_is_not_read_to_its_end()
    {
        var rows = Enumerable.Range(1, 1_000_000).Select(i => $"""<row r="{i}"><c r="A{i}"><v>{i}</v></c></row>""");
        var file = Workbook(rows);
        var began = Stopwatch.GetTimestamp();
        var (status, problem) = await BringAsync(file, "long.xlsx");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("200,000 rows", problem.Refusal().Says, StringComparison.Ordinal);
        Assert.True(Stopwatch.GetElapsedTime(began) < TimeSpan.FromSeconds(30));
    }
}
