using System.Diagnostics;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using DocumentFormat.OpenXml.Validation;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>The workbook people fill in their own spreadsheet; read by openpyxl from Debian's packages, a reader that is not ours.</summary>
[Collection(nameof(DemoHost))]
public sealed class WorkbookToFillTests(DemoHost demo)
{
    private const string Reader = """
        import json, sys, openpyxl
        book = openpyxl.load_workbook(sys.argv[1])
        links, words = book['Links'], book['Words']
        lists = {}
        for rule in links.data_validations.dataValidation:
            for cells in rule.sqref.ranges:
                lists[cells.min_col] = {'list': rule.formula1, 'strict': rule.errorStyle == 'stop', 'rows': cells.max_row - cells.min_row + 1}
        columns = [{'heading': c.value, 'hint': c.comment.text if c.comment else '', 'fill': c.fill.fgColor.rgb, **lists.get(c.column, {})} for c in links[1]]
        marked = [str(r.sqref) for r in links.conditional_formatting]
        print(json.dumps({'sheets': book.sheetnames, 'columns': columns, 'marked': marked, 'listed': [[c.value for c in column if c.value] for column in words.columns]}))
        """;

    [Fact]
    public async Task Another_reader_finds_lists_marks_and_hints_and_filled_it_comes_back_mapped()
    {
        using var client = demo.Host.As("editor");
        byte[] workbook = await client.GetByteArrayAsync("/api/v1/batches/workbook-to-fill");
        var read = await ReadAsync(workbook);
        Assert.Equal(["Links", "Words"], read["sheets"]!.AsArray().Select(s => s!.GetValue<string>()));
        var columns = read["columns"]!.AsArray();
        Assert.Equal(["Page", "Placement", "Campaign", "Source", "Medium"], columns.Take(5).Select(c => c.Text("heading")));
        var page = columns[0]!;
        Assert.StartsWith("Required.", page.Text("hint"), StringComparison.Ordinal);
        Assert.NotEqual(page.Text("fill"), columns[1].Text("fill"));
        var placement = columns[1]!;
        Assert.True(placement["strict"]!.GetValue<bool>());
        Assert.Equal(2_000, placement.Whole("rows"));
        Assert.Equal(["A2:A2001"], read["marked"]!.AsArray().Select(m => m!.GetValue<string>().Trim('<', '>').Split(' ')[^1]));
        Assert.Contains(read["listed"]!.AsArray(), l =>
            l!
                .ToJsonString(new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping })
                .Contains("Members’ mail", StringComparison.Ordinal)
        );

        // The medium's list follows the source that was chosen.
        Assert.Matches(
            @"^IF\(COUNTIF\(Words!\$\w\$2:\$\w\$\d+,\$D2\)=0,Words!.+,OFFSET\(Words!.+MATCH\(\$D2,.+\)$",
            columns[4].Text("list")
        );
        using (var document = SpreadsheetDocument.Open(new MemoryStream(workbook), false))
        {
            Assert.Empty(new OpenXmlValidator().Validate(document).Select(e => $"{e.Path?.XPath} {e.Description}"));
        }

        // Filled as a spreadsheet would, and brought back.
        using var form = new MultipartFormDataContent
        {
            {
                new ByteArrayContent(
                    Fill(workbook, [$"http://{BeaconHost.GardenHost}/visit?{Guid.NewGuid():N}", "Members’ mail", "School Visits"])
                )
                {
                    Headers = { ContentType = new MediaTypeHeaderValue("application/octet-stream") },
                },
                "file",
                "filled.xlsx"
            },
        };
        using var answer = await client.PostAsync("/api/v1/batches", form);
        string path = $"/api/v1/batches/{JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Text("id")}";
        var batch = await client.DoAsync(HttpMethod.Get, path);
        Assert.False(batch["isGuess"]!.GetValue<bool>());
        Assert.Equal(
            ("Page", "Placement", "Campaign", 1),
            (
                batch["recipe"]!["destination"].Text("column"),
                batch["recipe"]!["placement"].Text("column"),
                batch["recipe"]!["campaign"].Text("column"),
                batch.Whole("total")
            )
        );
        Assert.Equal(["Links", "Words"], batch["reading"]!["sheets"]!.AsArray().Select(s => s!.GetValue<string>()));
        var row = (await client.DoAsync(HttpMethod.Get, $"{path}/rows"))["rows"]![0];
        Assert.Equal("new", row.Text("outcome"));
        Assert.Contains("utm_source=members_mail&utm_medium=email&utm_campaign=school_visits", row.Text("url"), StringComparison.Ordinal);
    }

    private static byte[] Fill(byte[] workbook, string[] cells)
    {
        using var file = new MemoryStream();
        file.Write(workbook);
        using (var document = SpreadsheetDocument.Open(file, isEditable: true))
        {
            var sheet = document.WorkbookPart!.Workbook!.Descendants<Sheet>().First();
            var data = ((WorksheetPart)document.WorkbookPart.GetPartById(sheet.Id!.Value!)).Worksheet!.GetFirstChild<SheetData>()!;
            data.Append(
                new Row(
                    cells.Select(
                        (c, i) =>
                            new Cell
                            {
                                CellReference = $"{(char)('A' + i)}2",
                                DataType = CellValues.InlineString,
                                InlineString = new InlineString(new Text(c)),
                            }
                    )
                )
                {
                    RowIndex = 2,
                }
            );
        }

        return file.ToArray();
    }

    private static async Task<JsonNode> ReadAsync(byte[] workbook)
    {
        string file = Path.Combine(Path.GetTempPath(), $"fill-{Guid.NewGuid():N}.xlsx");
        await File.WriteAllBytesAsync(file, workbook);
        try
        {
            using var python = Process.Start(
                new ProcessStartInfo("/usr/bin/python3", ["-c", Reader, file])
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                }
            )!;
            string said = await python.StandardOutput.ReadToEndAsync();
            string failed = await python.StandardError.ReadToEndAsync();
            await python.WaitForExitAsync();
            return python.ExitCode == 0 ? JsonNode.Parse(said)! : throw new InvalidOperationException(failed);
        }
        finally
        {
            File.Delete(file);
        }
    }
}
