using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using MiniExcelLibs;
using PreciseBeacon.Core.Batches;
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
        using var form = new MultipartFormDataContent { { new ByteArrayContent(file), "file", name } };
        using var answer = await client.PostAsync("/api/v1/batches", form);
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }

    private async Task<JsonNode> RowsAsync(byte[] file, string name = "sheet.csv")
    {
        var (status, made) = await BringAsync(file, name);
        Assert.Equal(HttpStatusCode.Created, status);
        using var client = demo.Host.As("editor");
        var batch = await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{made.Text("id")}");
        batch["rows"] = (await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{made.Text("id")}/rows?most=500"))["rows"]!.DeepClone();
        return batch;
    }

    private static string[] Cells(JsonNode batch, int row) => [.. batch["rows"]![row]!["cells"]!.AsArray().Select(c => c!.GetValue<string>())];

    [Theory]
    [InlineData("utf8", ",")]
    [InlineData("utf8Marked", ";")]
    [InlineData("utf16Little", "\t")]
    [InlineData("utf16Big", ";")]
    [InlineData("windows1252", "|")]
    public async Task Encodings_separators_quotes_and_short_rows_are_read_right(string encoding, string separator)
    {
        string text = string.Join("\r\n", new[] { "No|Page|No||Gärten", $"007|{Page}|\"say \"\"hé\"\"\"|=1+1", "", $"008|{Page}|@x|-5|+3|beyond", "9" }).Replace("|", separator, StringComparison.Ordinal) + "\r\n";
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
        file.SaveAs(new[] { new Dictionary<string, object> { ["No"] = "007", ["Page"] = Page, ["Day"] = new DateTime(2026, 3, 1), ["Bid"] = 0.35, ["Long"] = "12345678901234567890", ["On"] = true } });
        Assert.Equal(["007", Page, "2026-03-01", "0.35", "12345678901234567890", "TRUE"], Cells(await RowsAsync(file.ToArray(), "ads.xlsx"), 0));
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
        await RefusedAsync(Encoding.ASCII.GetBytes($"Page\r\n{new string('x', (1 << 20) + 1)}\r\n"), HttpStatusCode.UnprocessableEntity, "million characters");
        await RefusedAsync(Encoding.ASCII.GetBytes(string.Join(',', Enumerable.Range(1, 501)) + "\r\n"), HttpStatusCode.UnprocessableEntity, "500 columns");
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
}
