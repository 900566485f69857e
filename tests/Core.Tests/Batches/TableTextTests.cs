using System.Diagnostics;
using System.Text;
using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.CoreTests.Outside;

namespace PreciseBeacon.CoreTests.Batches;

public sealed class TableTextTests
{
    public static Arbitrary<string[][]> Tables()
    {
        var cell = Gen.OneOf(
            Gen.Elements(
                "",
                "a",
                "00123",
                "1,5",
                "a;b",
                "\"quoted\"",
                "two\nlines",
                "two\r\nlines",
                "tab\there",
                " outer ",
                "=SUM(A1)",
                "2026-03-01",
                "12345678901234567890",
                "größe",
                "日本",
                "'",
                "\"",
                ",",
                "😀"
            ),
            ArbMap.Default.GeneratorFor<NonNull<string>>().Select(s => string.Concat(s.Get.Where(c => !char.IsSurrogate(c) && c != '\0')))
        );
        return (
            from columns in Gen.Choose(1, 6)
            from rows in Gen.Choose(1, 8)
            from cells in cell.ArrayOf(columns).ArrayOf(rows)
            select cells
        ).ToArbitrary();
    }

    /// <summary>csv-spectrum (npm), a set of files every CSV reader should read alike, with what they say as JSON.</summary>
    [Theory]
    [InlineData("comma_in_quotes")]
    [InlineData("empty")]
    [InlineData("empty_crlf")]
    [InlineData("escaped_quotes")]
    [InlineData("json")]
    [InlineData("location_coordinates")]
    [InlineData("newlines")]
    [InlineData("newlines_crlf")]
    [InlineData("quotes_and_newlines")]
    [InlineData("simple")]
    [InlineData("simple_crlf")]
    [InlineData("utf8")]
    public void Csv_spectrum_is_read_exactly(string name)
    {
        var table = TableText.Read(NpmPackage.Read($"csv-spectrum/csvs/{name}.csv"), ',');
        string json = NpmPackage.Read($"csv-spectrum/json/{name}.json").Trim();
        var wanted = JsonSerializer.Deserialize<List<Dictionary<string, string>>>(json.StartsWith('[') ? json : $"[{json}]")!; // one file has its only row bare
        var read = table
            .Rows.Select(r => table.Headings.Select((h, i) => (h, Table.Cell(r, i))).ToDictionary(c => c.h, c => c.Item2))
            .ToList();
        foreach (var row in wanted.Concat(read).Where(_ => name == "location_coordinates"))
        {
            row.Remove("Contact Phone Number"); // the set's own two files name different numbers there
        }

        Assert.Equal(JsonSerializer.Serialize(wanted), JsonSerializer.Serialize(read));
    }

    [Property(Arbitrary = [typeof(TableTextTests)], MaxTest = 500, QuietOnSuccess = true)]
    public Property Whatever_is_written_is_read_back_identically(string[][] rows, bool semicolon)
    {
        char separator = semicolon ? ';' : '\t';
        string text = TableText.Write(rows, separator);
        var table = TableText.Read(text, separator);
        return (
            table.Headings.SequenceEqual(rows[0])
            && table.Rows.Count == rows.Length - 1
            && table.Rows.Zip(rows.Skip(1)).All(r => r.First.SequenceEqual(r.Second))
        ).Label(text);
    }

    /// <summary>What an all-quoted file with plain line feeds, or any other, was written like is how it is written back.</summary>
    [Property(Arbitrary = [typeof(TableTextTests)], MaxTest = 300, QuietOnSuccess = true)]
    public Property A_text_is_written_back_in_its_own_form(string[][] rows, bool feed, bool quoted)
    {
        var form = new TextForm(';', feed ? "\n" : "\r\n", quoted);
        string text = TableText.Write(rows, form);
        var table = TableText.Read(text, ';');
        string again = TableText.Write([table.Headings, .. table.Rows], TableText.FormOf(text, ';'));
        return (again == text).Label($"{text}\n---\n{again}");
    }

    [Theory]
    [InlineData("\"a\",\"b\"\n\"1\",\"\"\n", "\n", true)]
    [InlineData("\"a\",\"b\"\n\"1\",\n", "\n", false)]
    [InlineData("\"a\",\"b\"\r\n\"1\n2\",\"x\"", "\r\n", true)]
    [InlineData("\"a\",\"b\"\r\n\"1\",\"x\"\r\n\r\n", "\r\n", true)]
    [InlineData("a,b\n1,2\n", "\n", false)]
    [InlineData("a,b", "\r\n", false)]
    [InlineData("", "\r\n", false)]
    public void The_form_is_recognised(string text, string lineEnd, bool allQuoted) =>
        Assert.Equal(new TextForm(',', lineEnd, allQuoted), TableText.FormOf(text, ','));

    /// <summary>Python's csv module as outside reader (RFC 4180).</summary>
    [Fact]
    public void Python_reads_back_what_was_written()
    {
        string[][] rows =
        [
            ["a", "b", "c"],
            .. Tables()
                .Generator.Where(t => t[0].Length == 3)
                .Sample(300)
                .SelectMany(t => t)
                .Where(r => r.All(c => !c.Contains('\r', StringComparison.Ordinal))),
        ];
        string file = Path.GetTempFileName();
        File.WriteAllText(file, TableText.Write(rows, ','), new UTF8Encoding(false));
        using var python = Process.Start(
            new ProcessStartInfo(
                "python3",
                ["-c", "import csv,json,sys\nprint(json.dumps(list(csv.reader(open(sys.argv[1], newline='', encoding='utf-8')))))", file]
            )
            {
                RedirectStandardOutput = true,
            }
        )!;
        string read = python.StandardOutput.ReadToEnd();
        python.WaitForExit();
        File.Delete(file);
        Assert.Equal(rows, JsonSerializer.Deserialize<string[][]>(read));
    }

    [Theory]
    [InlineData("a,b\n\"x\"y,1\n", "Row 2 has text after")]
    [InlineData("a,b\n1,2\n\"never closed,1\n2,3\n", "Row 3 opens a quotation mark")]
    public void Quotation_marks_that_do_not_match_are_named_by_row(string text, string says) =>
        Assert.StartsWith(says, Assert.Throws<FormatException>(() => TableText.Read(text, ',')).Message, StringComparison.Ordinal);

    [Fact]
    public void A_quotation_mark_inside_a_cell_stays_text() =>
        Assert.Equal("5\" pipe", TableText.Read("a,b\n5\" pipe,1\n", ',').Rows[0][0]);

    [Theory]
    [InlineData("a,b,c\n1,2,3\n", ',')]
    [InlineData("a;b;c\n1,5;2;3\n", ';')]
    [InlineData("a\tb\n1,2,3\t4\n", '\t')]
    [InlineData("\"a,x\";b\n\"1,2,3\";4\n", ';')]
    [InlineData("Ads of November\na;b;c\n1,5;2;3\n4;5;6\n", ';')] // a line of what it is about
    [InlineData("Groups, all of them\n\na;b\n1;2\n3;4\n5;6\n", ';')]
    [InlineData("only\none\n", ',')]
    [InlineData("", ',')]
    public void The_separator_is_recognised(string text, char separator) => Assert.Equal(separator, TableText.SeparatorOf(text));

    [Theory]
    [InlineData(FileEncoding.Utf8)]
    [InlineData(FileEncoding.Utf8Marked)]
    [InlineData(FileEncoding.Utf16Little)]
    [InlineData(FileEncoding.Utf16Big)]
    [InlineData(FileEncoding.Windows1252)]
    public void The_encoding_is_recognised_and_kept(FileEncoding encoding)
    {
        const string Text = "Seite;Größe\r\nhttps://marrowmere.example/;für 12 €\r\n";
        byte[] file = FileText.Encode(Text, encoding);
        Assert.Equal(encoding, FileText.Recognise(file).Encoding);
        Assert.Equal(Text, FileText.Decode(file, encoding));
    }

    [Fact]
    public void Utf16_without_a_mark_is_recognised_and_what_1252_cannot_hold_is_widened()
    {
        Assert.Equal(
            FileEncoding.Utf16Little,
            FileText.Recognise(Encoding.Unicode.GetBytes("Page,Content\r\nhttps://m.example,x")).Encoding
        );
        Assert.Equal(FileEncoding.Utf16Big, FileText.Recognise(Encoding.BigEndianUnicode.GetBytes("Page,Content\r\n")).Encoding);
        Assert.Equal(FileEncoding.Utf8Marked, FileText.Recognise(FileText.Encode("日本", FileEncoding.Windows1252)).Encoding);
        Assert.Equal(FileEncoding.Utf8, FileText.Recognise([]).Encoding);
    }

    [Fact]
    public void Columns_have_names_to_be_called_by()
    {
        var table = new Table(
            ["Page", " ", "page", "PAGE "],
            [
                ["a"],
            ]
        );
        Assert.Equal(["Page", "Column 2", "page (2)", "PAGE (3)"], table.Names);
        Assert.Equal(2, table.Find(" Page (2) "));
        Assert.Equal(-1, table.Find("Pages"));
        Assert.Equal("", Table.Cell(table.Rows[0], 3)); // a row too short
    }
}
