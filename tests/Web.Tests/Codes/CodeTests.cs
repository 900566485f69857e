using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Codes;
using PreciseBeacon.WebTests.Hosting;
using SkiaSharp;

namespace PreciseBeacon.WebTests.Codes;

/// <summary>Codes in every format, with logos and captions, on paper and in bulk: each read by zbar, which is not ours.</summary>
[Collection(nameof(DemoHost))]
public sealed class CodeTests(DemoHost demo)
{
    private const string Square =
        """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5" fill="#6A2C55"/></svg>""";

    [Theory]
    [InlineData("svg", "image/svg+xml")]
    [InlineData("png", "image/png")]
    [InlineData("jpg", "image/jpeg")]
    [InlineData("pdf", "application/pdf")]
    [InlineData("eps", "application/postscript")]
    public async Task Every_format_reads_with_colours_caption_and_logo(string format, string type)
    {
        var link = await demo.Host.SaveLinkAsync();
        string says = link.Text("codeShortUrl");
        var logo = await LogoAsync(Encoding.UTF8.GetBytes(Square), "mark.svg");
        using var client = demo.Host.As("viewer");
        foreach (
            string look in new[]
            {
                "",
                "&compact=true",
                $"&dark=%231B6C94&light=%23F6F4EF&caption=Lantern%20Nights%2C%20gate%20by%20the%20lake&logo={logo}",
            }
        )
        {
            using var file = await client.GetAsync($"/api/v1/links/{link.Text("id")}/code.{format}?mm=40{look}");
            Assert.Equal(type, file.Content.Headers.ContentType?.MediaType);
            string read = await OutsideReader.ReadAsync(await file.Content.ReadAsByteArrayAsync(), format);
            Assert.Equal(look.Contains("compact", StringComparison.Ordinal) ? says.ToUpperInvariant() : says, read);
        }
    }

    [Fact]
    public async Task A_picture_has_the_resolution_it_was_asked_for_and_capitals_find_their_link()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("viewer");
        byte[] png = await client.GetByteArrayAsync($"/api/v1/links/{link.Text("id")}/code.png?mm=40&dpi=600");
        int at = Encoding.Latin1.GetString(png).IndexOf("pHYs", StringComparison.Ordinal);
        Assert.Equal((23_622, 1), ((png[at + 4] << 24) | (png[at + 5] << 16) | (png[at + 6] << 8) | png[at + 7], png[at + 12])); // 600 / 0.0254 dots to a metre (PNG, pHYs)
        byte[] jpg = await client.GetByteArrayAsync($"/api/v1/links/{link.Text("id")}/code.jpg?mm=40&dpi=600");
        Assert.Equal((1, 600), (jpg[13], (jpg[14] << 8) | jpg[15])); // JFIF 1.02: inches, density

        string slug = "/" + link.Text("codeShortUrl").Split('/')[^1].ToUpperInvariant();
        await Eventually.Async(async () =>
        {
            using var scan = await demo.Host.ClickAsync(slug);
            return scan.StatusCode == HttpStatusCode.Found;
        });
    }

    [Fact]
    public async Task The_verdict_is_told_before_anything_is_printed_and_what_does_not_read_is_not_handed_out()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("viewer");
        string path = $"/api/v1/links/{link.Text("id")}/code";
        var good = await client.DoAsync(HttpMethod.Get, path);
        Assert.True(good.Text("verdict") == "scans", good.ToJsonString());
        Assert.Equal(4, good["trials"]!.AsArray().Count(t => t!["reads"]!.GetValue<bool>()));
        Assert.Equal(good["facts"].Whole("modules"), 17 + (4 * good["facts"].Whole("version")) + 8);
        Assert.Equal("doubtful", (await client.DoAsync(HttpMethod.Get, $"{path}?dark=%23AAAAAA")).Text("verdict"));
        foreach (
            string look in new[]
            {
                "dark=%23FFFFFF&light=%23000000",
                $"logo={await LogoAsync(Encoding.UTF8.GetBytes(Square), "m.svg")}&logoShare=0.5&correction=L",
            }
        )
        {
            Assert.Equal("unreadable", (await client.DoAsync(HttpMethod.Get, $"{path}?{look}")).Text("verdict"));
            using var refused = await client.GetAsync($"{path}.svg?{look}");
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        }
    }

    /// <summary>What is judged is the picture that is handed out: zbar, which is not ours, reads each one that is, at any size and resolution.</summary>
    [Fact]
    public async Task A_picture_is_handed_out_only_where_its_own_dots_read()
    {
        // A long address makes a code of many modules, of which a picture of one dot to each can't be read.
        var link = await demo.Host.SaveLinkAsync($"http://{BeaconHost.GardenHost}/visit?q={new string('q', 700)}");
        using var client = demo.Host.As("viewer");
        int refused = 0;
        foreach (string format in new[] { "png", "jpg" })
        {
            foreach (var (mm, dpi) in new[] { (5, 72), (8, 96), (10, 72), (12, 96), (20, 72), (25, 96), (30, 150) })
            {
                using var file = await client.GetAsync($"/api/v1/links/{link.Text("id")}/code.{format}?mm={mm}&dpi={dpi}&long=true");
                if (file.StatusCode == HttpStatusCode.OK)
                {
                    Assert.Equal(
                        link["link"].Text("url"),
                        await OutsideReader.ReadAsync(await file.Content.ReadAsByteArrayAsync(), format)
                    );
                    continue;
                }

                refused++;
                var (rule, says) = JsonNode.Parse(await file.Content.ReadAsStringAsync()).Refusal();
                Assert.Equal("code-unreadable", rule);
                Assert.Contains("dots are too few", says, StringComparison.Ordinal);
                using var drawn = await client.GetAsync($"/api/v1/links/{link.Text("id")}/code.svg?mm={mm}&dpi={dpi}&long=true");
                Assert.Equal(HttpStatusCode.OK, drawn.StatusCode);
            }
        }

        Assert.True(refused > 0, "a picture of one dot to a module was handed out");
        var answer = await client.DoAsync(HttpMethod.Get, $"/api/v1/links/{link.Text("id")}/code?mm=5&dpi=72&long=true");
        Assert.Equal("doubtful", answer.Text("verdict"));
        Assert.StartsWith("It scans as SVG, PDF or EPS, but not as PNG or JPG: ", answer.Text("sentence"), StringComparison.Ordinal);
    }

    /// <summary>Capitals change a long link's page, and help only where they save a version (ISO/IEC 18004, capacities of the alphanumeric mode).</summary>
    [Fact]
    public async Task Capitals_are_offered_only_where_they_make_the_code_smaller_and_the_distance_follows_the_true_size()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("viewer");
        Assert.False(
            (await client.DoAsync(HttpMethod.Get, $"/api/v1/links/{link.Text("id")}/code?long=true"))["facts"]![
                "compactSaves"
            ]!.GetValue<bool>()
        );
        foreach (string level in new[] { "L", "M", "Q", "H" })
        {
            string look = $"/api/v1/links/{link.Text("id")}/code?mm=31&dpi=96&correction={level}";
            var (small, capital) = (
                (await client.DoAsync(HttpMethod.Get, look))["facts"],
                (await client.DoAsync(HttpMethod.Get, look + "&compact=true"))["facts"]
            );
            Assert.Equal(capital.Whole("version") < small.Whole("version"), small!["compactSaves"]!.GetValue<bool>());
            Assert.Equal(small["trueMillimetres"]!.GetValue<decimal>() * 10, small["readingMillimetres"]!.GetValue<decimal>());
        }
    }

    [Theory]
    [InlineData("mm=1", "size-refused")]
    [InlineData("correction=X", "correction-unknown")]
    [InlineData("correction=7", "correction-unknown")]
    [InlineData("dark=red", "colour-unreadable")]
    [InlineData("logoShare=0.9", "logo-share")]
    [InlineData("logo=0195c4e8-0000-7000-8000-000000000000", "not-found")]
    public async Task What_cannot_be_drawn_is_refused_with_the_reason(string look, string rule)
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("viewer");
        Assert.Equal(rule, (await client.CallAsync(HttpMethod.Get, $"/api/v1/links/{link.Text("id")}/code?{look}")).Json.Refusal().Rule);
    }

    /// <summary>2,000 made-up addresses of all lengths at all levels, drawn by us and read by zbarimg.</summary>
    [Fact]
    public async Task Two_thousand_codes_read()
    {
        var random = new Random(20_261_125);
        var texts = Enumerable
            .Range(0, 2_000)
            .Select(i =>
                $"https://mmr.example/{new string([.. Enumerable.Range(0, 2 + (i % 120)).Select(_ => "bcdfghjkmnpqrstvwxyz23456789-"[random.Next(29)])])}"
            )
            .ToList();
        string folder = Directory.CreateTempSubdirectory("beacon-codes-").FullName;
        try
        {
            for (int i = 0; i < texts.Count; i++)
            {
                var drawing = CodeDrawing.Of(texts[i], new CodeStyle(Correction: (CorrectionLevel)(i % 4)));
                await File.WriteAllBytesAsync(Path.Combine(folder, $"{i:D4}.png"), CodePicture.Png(drawing, 3));
            }

            string[] read = (await OutsideReader.ReadFolderAsync(folder)).Split('\n', StringSplitOptions.RemoveEmptyEntries);
            Assert.Equal(texts, read);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>As large as our count of codewords says a code can just bear, in ink that is as wrong as can be.</summary>
    [Theory]
    [InlineData("https://mmr.example/bc23", CorrectionLevel.H)]
    [InlineData("https://mmr.example/lantern-nights-gate", CorrectionLevel.Q)]
    [InlineData("https://mmr.example/summer-membership-drive-for-schools", CorrectionLevel.H)]
    public async Task A_logo_at_the_limit_still_reads(string url, CorrectionLevel level)
    {
        using var surface = SKSurface.Create(new SKImageInfo(60, 60));
        surface.Canvas.Clear(SKColors.DarkSlateGray);
        using var image = surface.Snapshot();
        using var png = image.Encode();
        int version = CodeMatrix.Of(url, level).Version;
        decimal share = Enumerable
            .Range(5, 45)
            .Select(s => s / 100m)
            .Last(s => LogoPlace.Of(version, level, s) is { } place && place.Lost <= place.Repairable);
        var drawing = CodeDrawing.Of(url, new CodeStyle(Correction: level, Logo: png.ToArray(), LogoShare: share));
        Assert.Equal(url, await OutsideReader.ReadAsync(CodePicture.Png(drawing, 8), "png"));
    }

    [Fact]
    public async Task A_sheet_of_codes_is_counted_first_then_printed_and_each_label_reads()
    {
        var links = new List<JsonNode>();
        for (int i = 0; i < 7; i++)
        {
            links.Add(await demo.Host.SaveLinkAsync(content: $"label{i}"));
        }

        using var client = demo.Host.As("editor");
        object wanted = new
        {
            links = links.Select(l => l.Text("id")),
            look = new { mm = 40, caption = "@{placement} @{number}" },
            sheet = new { columns = 2, rows = 3 },
            skip = 1,
            cutMarks = true,
        };
        var count = await client.DoAsync(HttpMethod.Post, "/api/v1/codes/count", wanted);
        Assert.Equal((7, 0, 2, 6), (count.Whole("codes"), count.Whole("without"), count.Whole("pages"), count["layout"].Whole("perPage")));
        using var pdf = await client.PostAsJsonAsync("/api/v1/codes/sheet.pdf", wanted);
        Assert.Equal("application/pdf", pdf.Content.Headers.ContentType?.MediaType);
        string[] read = (await OutsideReader.ReadPagesAsync(await pdf.Content.ReadAsByteArrayAsync())).Split(
            '\n',
            StringSplitOptions.RemoveEmptyEntries
        );
        Assert.Equal(links.Select(l => l.Text("codeShortUrl")).Order(), read.Order());

        foreach (
            object sheet in new object[]
            {
                new
                {
                    columns = 9,
                    rows = 1,
                    width = 60,
                    height = 30,
                },
                new { },
                new { width = 300, height = 40 },
            }
        )
        {
            Assert.Equal(
                "sheet-refused",
                (await client.CallAsync(HttpMethod.Post, "/api/v1/codes/count", new { links = links.Select(l => l.Text("id")), sheet }))
                    .Json.Refusal()
                    .Rule
            );
        }
    }

    [Fact]
    public async Task Single_files_are_named_by_a_pattern_never_twice_and_unknown_fill_ins_are_told()
    {
        string[] ids =
        [
            (await demo.Host.SaveLinkAsync(content: "one")).Text("id"),
            (await demo.Host.SaveLinkAsync(content: "two")).Text("id"),
        ];
        using var client = demo.Host.As("editor");
        using var zipped = await client.PostAsJsonAsync(
            "/api/v1/codes.zip",
            new
            {
                links = ids,
                format = "eps",
                names = "Gate: @{campaign}/poster",
            }
        );
        using var zip = new ZipArchive(await zipped.Content.ReadAsStreamAsync());
        Assert.Equal(2, zip.Entries.Select(e => e.FullName).Distinct().Count());
        Assert.All(zip.Entries, e => Assert.Matches("^Gate- [^/:]+-poster.*\\.eps$", e.FullName));
        Assert.Equal(
            "fill-in-unknown",
            (await client.CallAsync(HttpMethod.Post, "/api/v1/codes.zip", new { links = ids, names = "@{bed}" })).Json.Refusal().Rule
        );
        Assert.Equal(
            "format-unknown",
            (await client.CallAsync(HttpMethod.Post, "/api/v1/codes.zip", new { links = ids, format = "gif" })).Json.Refusal().Rule
        );
    }

    [Theory]
    [InlineData("codes.zip")]
    [InlineData("codes/sheet.pdf")]
    public async Task Many_codes_that_do_not_read_are_not_handed_out(string file)
    {
        string[] ids =
        [
            (await demo.Host.SaveLinkAsync(content: "one")).Text("id"),
            (await demo.Host.SaveLinkAsync(content: "two")).Text("id"),
        ];
        using var client = demo.Host.As("editor");
        var refusal = (
            await client.CallAsync(
                HttpMethod.Post,
                $"/api/v1/{file}",
                new
                {
                    links = ids,
                    look = new { dark = "#FFFFFF", light = "#000000" },
                    sheet = new { columns = 2, rows = 2 },
                }
            )
        ).Json.Refusal();
        Assert.Equal("code-unreadable", refusal.Rule);
        Assert.Contains("lighter than the background", refusal.Says, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("no picture at all")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\"><broken")]
    [InlineData("GIF89a")]
    public async Task What_is_no_logo_is_refused_and_nothing_is_kept(string file)
    {
        using var client = demo.Host.As("editor");
        int before = (await client.DoAsync(HttpMethod.Get, "/api/v1/code-logos")).AsArray().Count;
        using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(file)), "file", "logo.png" } };
        using var answer = await client.PostAsync("/api/v1/code-logos", form);
        Assert.Equal("logo-unreadable", JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Refusal().Rule);
        Assert.Equal(before, (await client.DoAsync(HttpMethod.Get, "/api/v1/code-logos")).AsArray().Count);
    }

    /// <summary>A drawing may not fetch, nor show what lies on this machine.</summary>
    /// <summary>Pictures that take for ever to draw: each has two seconds, two are drawn at a time, and a crowd of them is sent away.</summary>
    [Fact]
    public async Task A_logo_that_takes_long_to_draw_is_given_up_and_a_crowd_of_them_holds_nobody_up()
    {
        string filters = string.Concat(
            Enumerable
                .Range(0, 40)
                .Select(i =>
                    $"<feTurbulence type=\"fractalNoise\" baseFrequency=\"0.9\" numOctaves=\"200\" seed=\"{i}\"/><feGaussianBlur stdDeviation=\"90\"/>"
                )
        );
        string slow =
            $"""<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="4000"><filter id="f" x="0" y="0" width="1" height="1">{filters}</filter><rect width="4000" height="4000" filter="url(#f)"/></svg>""";
        using var client = demo.Host.As("editor");
        var began = System.Diagnostics.Stopwatch.StartNew();
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 14)
                .Select(async _ =>
                {
                    using var form = new MultipartFormDataContent
                    {
                        { new ByteArrayContent(Encoding.UTF8.GetBytes(slow)), "file", "slow.svg" },
                    };
                    using var answer = await client.PostAsync("/api/v1/code-logos", form);
                    return JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Refusal().Says;
                })
        );
        Assert.All(answers, a =>
            Assert.True(a.Contains("2 seconds", StringComparison.Ordinal) || a.Contains("Many logos", StringComparison.Ordinal), a)
        );
        Assert.Contains(answers, a => a.Contains("Many logos", StringComparison.Ordinal));
        Assert.True(began.Elapsed < TimeSpan.FromSeconds(30), $"{began.Elapsed}"); // five turns of two seconds, and a busy machine
    }

    [Fact]
    public async Task A_drawn_logo_reads_no_other_file()
    {
        string secret = Path.Combine(Path.GetTempPath(), string.Create(CultureInfo.InvariantCulture, $"beacon-{Guid.NewGuid():N}.svg"));
        await File.WriteAllTextAsync(
            secret,
            """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><rect width="1" height="1" fill="#FF0000"/></svg>"""
        );
        try
        {
            var (png, _) = await LogoFile.ReadAsync(
                Encoding.UTF8.GetBytes(
                    $"""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><rect width="1" height="1" fill="#00FF00"/><image href="file://{secret}" width="1" height="1"/></svg>"""
                ),
                CancellationToken.None
            );
            using var drawn = SKBitmap.Decode(png);
            Assert.Equal(new SKColor(0, 255, 0), drawn.GetPixel(300, 300));
        }
        finally
        {
            File.Delete(secret);
        }
    }

    private async Task<string> LogoAsync(byte[] file, string name)
    {
        using var client = demo.Host.As("editor");
        using var form = new MultipartFormDataContent { { new ByteArrayContent(file), "file", name } };
        using var answer = await client.PostAsync("/api/v1/code-logos", form);
        answer.EnsureSuccessStatusCode();
        return JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Text("id");
    }
}
