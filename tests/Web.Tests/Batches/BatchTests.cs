using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>A sheet in, links by a recipe, the same sheet out.</summary>
[Collection(nameof(DemoHost))]
public sealed class BatchTests(DemoHost demo)
{
    private const string Site = $"http://{BeaconHost.GardenHost}";

    private static async Task<(HttpStatusCode Status, JsonNode Json)> BringAsync(
        HttpClient client,
        byte[] file,
        string name = "sheet.csv",
        string? recipe = null
    )
    {
        using var form = new MultipartFormDataContent();
        form.Add(
            new ByteArrayContent(file) { Headers = { ContentType = new MediaTypeHeaderValue("application/octet-stream") } },
            "file",
            name
        );
        if (recipe is not null)
        {
            form.Add(new StringContent(recipe), "recipe");
        }

        using var answer = await client.PostAsync("/api/v1/batches", form);
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }

    private static async Task<JsonNode> EndedAsync(HttpClient client, string id)
    {
        JsonNode batch = new JsonObject();
        await Eventually.Async(async () =>
            (batch = await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{id}")).Text("state") is not "running"
        );
        return batch;
    }

    private static string Community(string mark) =>
        $"No;Where;Goes to;What for;Note;Content\r\n"
        + $"007;Pippinwall growers’ group;{Site}/seed-swap?{mark};Seed Swap;\"says \"\"hello\"\";\";\r\n"
        + $"008;Nobody’s wall;{Site}/seed-swap?{mark};Seed Swap;=1+1;\r\n"
        + "009;Gate poster;javascript:alert(1);Seed Swap;01.02.2026;\r\n"
        + ";;;;;\r\n"
        + $"010;Vale Visitor Board;{Site}/visit?{mark};Seed Swap;12345678901234567890;Corner box\r\n";

    [Fact]
    public async Task Lines_above_the_headings_are_passed_over_and_come_back()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..6];
        string sheet =
            $"Groups, as of November\r\nTitle;Where;Goes to;What for\r\n=1+1;Gate poster;{Site}/visit?{mark}a;Seed Swap\r\nMoss;Gate poster;{Site}/visit?{mark}b;Seed Swap\r\n";
        var (_, made) = await BringAsync(client, Encoding.UTF8.GetBytes(sheet));
        string path = $"/api/v1/batches/{made.Text("id")}";
        var batch = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal((2, 2), (batch["reading"].Whole("headingRow"), batch.Whole("total")));
        Assert.Equal("Title", batch["recipe"]!["title"].Text("column"));

        var recipe = batch["recipe"]!.DeepClone();
        recipe["linkText"] = "@{Title} – @{link}";
        await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = 1 });
        var row = (await client.DoAsync(HttpMethod.Get, $"{path}/rows"))["rows"]![1]!;
        Assert.Equal($"Moss – {row.Text("url")}", row.Text("linkText"));
        await client.CallAsync(HttpMethod.Post, $"{path}/run");
        await EndedAsync(client, made.Text("id"));
        string[] lines = (await client.GetStringAsync($"{path}/result.csv")).Split("\r\n");
        Assert.Equal(["Groups, as of November", "Title;Where;Goes to;What for;Tagged link;Created on;Text"], lines[..2]);
        Assert.EndsWith($";Moss – {row.Text("url")}", lines[3], StringComparison.Ordinal);

        // What came in as it was goes out as it was; what is ours never begins a formula.
        Assert.StartsWith("=1+1;", lines[2], StringComparison.Ordinal);
        Assert.Contains(";'=1+1 – ", lines[2], StringComparison.Ordinal);
        Assert.Equal(1, (await client.DoAsync(HttpMethod.Get, $"/api/v1/links?search={mark}b")).Whole("total"));
        Assert.Equal("Moss", (await client.DoAsync(HttpMethod.Get, $"/api/v1/links?search={mark}b"))["links"]![0].Text("title"));
    }

    [Fact]
    public async Task Links_that_exist_already_are_used_unless_others_are_wanted()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..6];
        string Sheet(string rows) => $"Where;Goes to;What for\r\n{rows}";
        string old = $"Gate poster;{Site}/visit?{mark}a;Seed Swap\r\nVale Visitor Board;{Site}/visit?{mark}b;Seed Swap\r\n";
        var (_, first) = await BringAsync(client, Encoding.UTF8.GetBytes(Sheet(old)));
        await client.CallAsync(HttpMethod.Post, $"/api/v1/batches/{first.Text("id")}/run");
        await EndedAsync(client, first.Text("id"));

        // The same export again, with one row more.
        var (_, again) = await BringAsync(client, Encoding.UTF8.GetBytes(Sheet(old + $"Gate poster;{Site}/visit?{mark}c;Seed Swap\r\n")));
        string path = $"/api/v1/batches/{again.Text("id")}";
        var count = await CountAsync(client, path);
        Assert.Equal((2, 1), (count["outcomes"].Whole("existing"), count["outcomes"].Whole("new")));
        await client.CallAsync(HttpMethod.Post, $"{path}/run");
        var batch = await EndedAsync(client, again.Text("id"));
        Assert.Equal((1, 2), (batch["runs"]![0].Whole("made"), batch["runs"]![0].Whole("used")));
        Assert.Equal(3, (await client.DoAsync(HttpMethod.Get, $"/api/v1/links?search={mark}")).Whole("total"));
        Assert.All((await client.GetStringAsync($"{path}/result.csv")).Split("\r\n")[1..4], line =>
            Assert.Contains("utm_", line, StringComparison.Ordinal)
        );

        // A link without a short link doesn't stand in for one with it.
        var recipe = batch["recipe"]!.DeepClone();
        recipe["shorten"] = true;
        var (_, third) = await BringAsync(client, Encoding.UTF8.GetBytes(Sheet(old)));
        path = $"/api/v1/batches/{third.Text("id")}";
        await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = 1 });
        Assert.Equal(2, (await CountAsync(client, path))["outcomes"].Whole("new"));
        recipe["shorten"] = false;
        recipe["existing"] = "again";
        await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = 2 });
        Assert.Equal(2, (await CountAsync(client, path))["outcomes"].Whole("new"));
    }

    [Fact]
    public async Task A_changed_recipe_tells_which_kept_links_it_would_write_differently()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..6];
        string sheet =
            $"Where;Goes to;What for\r\nGate poster;{Site}/visit?{mark}a;Seed Swap\r\nVale Visitor Board;{Site}/visit?{mark}b;Seed Swap\r\n";
        var (_, made) = await BringAsync(client, Encoding.UTF8.GetBytes(sheet));
        string path = $"/api/v1/batches/{made.Text("id")}";
        await client.CallAsync(HttpMethod.Post, $"{path}/run");
        var batch = await EndedAsync(client, made.Text("id"));
        Assert.Equal(0, (await CountAsync(client, path)).Whole("differing"));

        var recipe = batch["recipe"]!.DeepClone();
        recipe["campaign"] = "School Visits";
        batch = await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = batch.Whole("revision") });
        var count = await CountAsync(client, path);
        Assert.Equal((2, 2), (count["outcomes"].Whole("unchanged"), count.Whole("differing")));
        Assert.Contains("school_visits", count["samples"]![0].Text("after"), StringComparison.Ordinal);

        recipe["results"] = "afresh";
        await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = batch.Whole("revision") });
        count = await CountAsync(client, path);
        Assert.Equal((2, 0), (count["outcomes"].Whole("changed"), count.Whole("differing")));
    }

    [Fact]
    public async Task A_sheet_is_guessed_counted_run_and_goes_out_as_it_came_with_its_links()
    {
        using var client = demo.Host.As("editor");
        string sheet = Community(Guid.NewGuid().ToString("N")[..6]);
        var (status, made) = await BringAsync(client, FileText.Encode(sheet, FileEncoding.Windows1252), "groups.csv");
        Assert.Equal(HttpStatusCode.Created, status);
        string path = $"/api/v1/batches/{made.Text("id")}";
        var batch = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal(("windows1252", ";"), (batch["reading"].Text("encoding"), batch["reading"].Text("separator")));
        Assert.True(batch["isGuess"]!.GetValue<bool>());
        Assert.Equal(
            ("Goes to", "Where", "What for"),
            (
                batch["recipe"]!["destination"].Text("column"),
                batch["recipe"]!["placement"].Text("column"),
                batch["recipe"]!["campaign"].Text("column")
            )
        );
        Assert.Equal("Content", batch["recipe"]!["fields"]!["utm_content"].Text("column"));

        var recipe = batch["recipe"]!.DeepClone();
        recipe["shorten"] = true;
        var changed = await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = 1 });
        Assert.False(changed["isGuess"]!.GetValue<bool>());
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await client.CallAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = 1 })).Status
        );

        var count = await CountAsync(client, path);
        Assert.Equal((2, 2, 1), (count["outcomes"].Whole("new"), count["outcomes"].Whole("stopped"), count["outcomes"].Whole("empty")));
        Assert.Contains(count["rules"]!.AsArray(), r => r.Text("rule") == "placement-unknown");
        Assert.Equal(2, (await client.DoAsync(HttpMethod.Get, $"{path}/rows?outcome=stopped")).Whole("total"));
        Assert.Equal(1, (await client.DoAsync(HttpMethod.Get, $"{path}/rows?rule=placement-unknown")).Whole("total"));

        // The row that names nobody gets a placement of its own, typed for it alone.
        await client.DoAsync(
            HttpMethod.Put,
            $"{path}/overrides",
            new { rows = new[] { new { number = 2, values = new Dictionary<string, string?> { ["placement"] = "Nattervine page" } } } }
        );
        Assert.Equal(HttpStatusCode.Accepted, (await client.CallAsync(HttpMethod.Post, $"{path}/run")).Status);
        batch = await EndedAsync(client, made.Text("id"));
        var run = batch["runs"]![0];
        Assert.Equal(("finished", 3, 0, 1), (batch.Text("state"), run.Whole("made"), run.Whole("changed"), run.Whole("stopped")));

        byte[] csv = await client.GetByteArrayAsync($"{path}/result.csv");
        Assert.Equal(FileEncoding.Windows1252, FileText.Recognise(csv).Encoding);
        var before = TableText.Read(sheet, ';');
        var after = TableText.Read(FileText.Decode(csv, FileEncoding.Windows1252), ';');
        Assert.Equal([.. before.Headings, "Tagged link", "Short link", "QR link", "Created on"], after.Headings);
        Assert.All(before.Rows.Zip(after.Rows), r => Assert.Equal(r.First, r.Second.Take(6)));
        Assert.Contains("utm_source=nattervine", after.Rows[1][6], StringComparison.Ordinal);
        Assert.StartsWith($"http://{demo.Host.ShortHost}/", after.Rows[0][7], StringComparison.Ordinal);
        Assert.NotEqual(after.Rows[0][7], after.Rows[0][8]);
        Assert.Equal(["", "", "", ""], after.Rows[2].Skip(6));
        Assert.Contains("utm_content=corner_box", after.Rows[4][6], StringComparison.Ordinal);

        // Only what a re-import wants, and only rows that have something for it.
        var narrow = TableText.Read(
            FileText.Decode(await client.GetByteArrayAsync($"{path}/result.csv?changed=true&original=true"), FileEncoding.Windows1252),
            ';'
        );
        Assert.Equal((3, 7), (narrow.Rows.Count, narrow.Headings.Count));
        Assert.Equal("PK", Encoding.ASCII.GetString((await client.GetByteArrayAsync($"{path}/result.xlsx"))[..2]));
    }

    [Fact]
    public async Task Results_are_kept_or_begun_afresh_and_history_keeps_every_run()
    {
        using var client = demo.Host.As("editor");
        string page = $"{Site}/news?{Guid.NewGuid():N}";
        const string Recipe =
            """{"destination":{"column":"Landing page"},"placement":"Members’ mail","campaign":"School Visits","fields":{"content":{"text":"@{Title} @{Text}"}},"output":{"column":"Landing page"}}""";
        var (_, made) = await BringAsync(
            client,
            Encoding.UTF8.GetBytes($"Title,Text,Landing page\r\nFern,now,{page}\r\nMoss,,{page}\r\n"),
            recipe: Recipe
        );
        string id = made.Text("id");
        var batch = await EndedAsync(client, id);
        Assert.Equal(2, batch["runs"]![0].Whole("made"));
        string first = await client.GetStringAsync($"/api/v1/batches/{id}/result.csv?original=true");
        Assert.StartsWith(
            $"Title,Text,Landing page\r\nFern,now,{page}&utm_source=members_mail&utm_medium=email&utm_campaign=school_visits&utm_content=fern_now\r\n",
            first,
            StringComparison.Ordinal
        );

        await client.DoAsync(HttpMethod.Post, $"/api/v1/batches/{id}/run");
        batch = await EndedAsync(client, id);
        Assert.Equal((0, 2), (batch["runs"]![0].Whole("made"), batch["runs"]![0].Whole("unchanged")));

        var recipe = batch["recipe"]!.DeepClone();
        recipe["fields"] = new JsonObject { ["content"] = new JsonObject { ["column"] = "Title" } };
        recipe["results"] = "afresh";
        await client.DoAsync(HttpMethod.Put, $"/api/v1/batches/{id}/recipe", new { recipe, revision = batch.Whole("revision") });
        var count = await CountAsync(client, $"/api/v1/batches/{id}");
        Assert.Equal((1, 1), (count["outcomes"].Whole("changed"), count["outcomes"].Whole("unchanged"))); // “Moss” alone says the same as before
        Assert.EndsWith("utm_content=fern_now", count["samples"]![0].Text("before"), StringComparison.Ordinal);
        Assert.EndsWith("utm_content=fern", count["samples"]![0].Text("after"), StringComparison.Ordinal);
        await client.DoAsync(HttpMethod.Post, $"/api/v1/batches/{id}/run");
        batch = await EndedAsync(client, id);
        Assert.Equal((1, 1, 3), (batch["runs"]![0].Whole("changed"), batch["runs"]![0].Whole("unchanged"), batch["runs"]!.AsArray().Count));
        Assert.Contains("@{Title} @{Text}", batch["runs"]![2]!["recipe"]!.ToJsonString(), StringComparison.Ordinal);
        Assert.Equal(3L, await demo.Host.ScalarAsync<long>("select count(*) from links where destination = $1", page)); // the earlier link stays

        await client.DoAsync(HttpMethod.Post, "/api/v1/recipes", new { name = "Our ads", batch = id });
        var (_, next) = await BringAsync(client, Encoding.UTF8.GetBytes("Landing page,Text,Title\r\n"));
        var follows = await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{next.Text("id")}");
        Assert.Equal(("Members’ mail", false), (follows["recipe"]!["placement"].Text("value"), follows["isGuess"]!.GetValue<bool>())); // somebody checked it before it was saved

        // A column the sheet doesn't have is added under the name it was given.
        var named = follows["recipe"]!.DeepClone();
        named["output"] = new JsonObject { ["column"] = "=Campaign link" };
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/batches/{next.Text("id")}/recipe",
            new { recipe = named, revision = follows.Whole("revision") }
        );
        Assert.StartsWith(
            "Landing page,Text,Title,Campaign link",
            (await client.GetStringAsync($"/api/v1/batches/{next.Text("id")}/result.csv")).TrimStart('\uFEFF'),
            StringComparison.Ordinal
        );
        var kept = (await client.DoAsync(HttpMethod.Get, $"/api/v1/recipes?batch={next.Text("id")}"))
            .AsArray()
            .Single(r => r.Text("name") == "Our ads");
        Assert.True(kept!["fits"]!.GetValue<bool>());
        await client.DoAsync(HttpMethod.Delete, $"/api/v1/recipes/{kept.Text("id")}");
    }

    [Fact]
    public async Task A_workbook_keeps_every_foreign_cell_also_its_formulas_and_formats()
    {
        using var client = demo.Host.As("editor");
        byte[] workbook = Workbook($"{Site}/visit?{Guid.NewGuid():N}");
        var (_, made) = await BringAsync(
            client,
            workbook,
            "ads.xlsx",
            """{"destination":{"column":"Final URL"},"placement":"Members’ mail","campaign":"School Visits","output":{"column":"Final URL"},"shorten":true}"""
        );
        var batch = await EndedAsync(client, made.Text("id"));
        Assert.Equal(1, batch["runs"]![0].Whole("made"));
        byte[] result = await client.GetByteArrayAsync($"/api/v1/batches/{made.Text("id")}/result.xlsx");

        using var before = SpreadsheetDocument.Open(new MemoryStream(workbook), false);
        using var after = SpreadsheetDocument.Open(new MemoryStream(result), false);
        var (was, now) = (CellsOf(before), CellsOf(after));
        foreach (var (reference, xml) in was.Where(c => c.Key != "B2"))
        {
            Assert.Equal(xml, now[reference]);
        }

        Assert.Contains("utm_source=members_mail", now["B2"], StringComparison.Ordinal);
        Assert.Contains("Short link", now["E1"], StringComparison.Ordinal);
        Assert.Contains(demo.Host.ShortHost, now["E2"], StringComparison.Ordinal);
        Assert.Equal(2, after.WorkbookPart!.Workbook!.Descendants<Sheet>().Count());
        Assert.Empty(new DocumentFormat.OpenXml.Validation.OpenXmlValidator().Validate(after).Select(e => e.Description));
    }

    [Fact]
    public async Task What_was_typed_is_taken_back_and_put_again_and_a_repair_reaches_every_row_like_it()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..6];
        var sheet = new StringBuilder("Page,Medium,Shelf\r\n");
        for (int i = 1; i <= 1_200; i++)
        {
            sheet.Append(
                System.Globalization.CultureInfo.InvariantCulture,
                $"{Site}/shop?{mark}{i},{(i % 3 == 0 ? "comunity" : "community")},{1_201 - i}\r\n"
            );
        }

        var (_, made) = await BringAsync(client, Encoding.UTF8.GetBytes(sheet.ToString()));
        string path = $"/api/v1/batches/{made.Text("id")}";
        var recipe = (await client.DoAsync(HttpMethod.Get, path))["recipe"]!.DeepClone();
        recipe["fields"] = new JsonObject
        {
            ["medium"] = new JsonObject { ["column"] = "Medium" },
            ["source"] = "pippinwall",
            ["Campaign"] = "seed_swap",
        };
        var batch = await client.DoAsync(HttpMethod.Put, $"{path}/recipe", new { recipe, revision = 1 });
        Assert.Equal(["utm_campaign", "utm_medium", "utm_source"], batch["recipe"]!["fields"]!.AsObject().Select(f => f.Key).Order());
        await CountAsync(client, path);

        // Numbers in cells are ordered as numbers; the rows keep theirs.
        var sorted = await client.DoAsync(HttpMethod.Get, $"{path}/rows?sort=2&most=3");
        Assert.Equal([1_200, 1_199, 1_198], sorted["rows"]!.AsArray().Select(r => r.Whole("number")));
        Assert.Equal(1, (await client.DoAsync(HttpMethod.Get, $"{path}/rows?sort=2&descending=true&most=1"))["rows"]![0].Whole("number"));

        // One repair goes to all four hundred rows, further than any page of the grid.
        var faulty = (await client.DoAsync(HttpMethod.Get, $"{path}/rows?rule=word-unknown&most=1"))["rows"]![0]!;
        var repair = faulty["notices"]!.AsArray().First(n => n.Text("rule") == "word-unknown")!["repair"]!;
        var done = await client.DoAsync(
            HttpMethod.Post,
            $"{path}/repair",
            new
            {
                rule = "word-unknown",
                field = repair.Text("field"),
                value = repair.Text("value"),
            }
        );
        Assert.Equal(400, done.Whole("rows"));
        Assert.Equal(1_200, (await CountAsync(client, path))["outcomes"].Whole("new"));
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await client.CallAsync(
                    HttpMethod.Post,
                    $"{path}/repair",
                    new
                    {
                        rule = "word-unknown",
                        field = repair.Text("field"),
                        value = repair.Text("value"),
                    }
                )
            ).Status
        );

        await client.DoAsync(
            HttpMethod.Put,
            $"{path}/overrides",
            new
            {
                rows = new[] { new { number = 3, values = new Dictionary<string, string?> { ["medium"] = "social\0" } } },
                says = "one by hand",
            }
        );
        Assert.Equal(
            ("one by hand", null),
            ((await client.DoAsync(HttpMethod.Get, path)).Text("undo"), (await client.DoAsync(HttpMethod.Get, path))["redo"]?.ToString())
        );
        Assert.Equal("social", await MediumAsync(3));
        Assert.Equal("one by hand", (await client.DoAsync(HttpMethod.Post, $"{path}/undo")).Text("says"));
        Assert.Equal("community", await MediumAsync(3)); // what the repair had put there, not the cell
        Assert.Equal(400, (await client.DoAsync(HttpMethod.Post, $"{path}/undo")).Whole("rows"));
        Assert.Null(await MediumAsync(3));
        Assert.Equal(HttpStatusCode.Conflict, (await client.CallAsync(HttpMethod.Post, $"{path}/undo")).Status);
        await client.DoAsync(HttpMethod.Post, $"{path}/redo");
        await client.DoAsync(HttpMethod.Post, $"{path}/redo");
        Assert.Equal("social", await MediumAsync(3));

        // After another edit what was taken back is gone; a row the sheet doesn't have is refused, and nothing is typed.
        await client.DoAsync(HttpMethod.Post, $"{path}/undo");
        await client.DoAsync(
            HttpMethod.Put,
            $"{path}/overrides",
            new { rows = new[] { new { number = 4, values = new Dictionary<string, string?> { ["medium"] = "email" } } } }
        );
        Assert.Equal(HttpStatusCode.Conflict, (await client.CallAsync(HttpMethod.Post, $"{path}/redo")).Status);
        var twoRows = new[] { 5, 9_999 }.Select(number => new
        {
            number,
            values = new Dictionary<string, string?> { ["medium"] = "email" },
        });
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.CallAsync(HttpMethod.Put, $"{path}/overrides", new { rows = twoRows })).Status
        );
        Assert.Null(await MediumAsync(5));

        async Task<string?> MediumAsync(int row) =>
            (await client.DoAsync(HttpMethod.Get, $"{path}/rows?skip={row - 1}&most=1"))["rows"]![0]!["overrides"]!
                ["utm_medium"]
                ?.GetValue<string>();
    }

    [Fact]
    public async Task Next_months_file_keeps_the_links_of_rows_it_shares_and_says_what_differs()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..6];
        const string Recipe =
            """{"destination":{"column":"Page"},"placement":"Members’ mail","campaign":"School Visits","fields":{"content":{"column":"Ad"}},"output":{"column":"Page"},"shorten":true}""";
        var (_, first) = await BringAsync(
            client,
            Encoding.UTF8.GetBytes($"Ad,Page,Bid\r\nA1,{Site}/shop?{mark},1\r\nA2,{Site}/visit?{mark},2\r\nA3,{Site}/news?{mark},3\r\n"),
            recipe: Recipe
        );
        await EndedAsync(client, first.Text("id"));

        using var form = new MultipartFormDataContent
        {
            {
                new ByteArrayContent(
                    Encoding.UTF8.GetBytes(
                        $"Ad,Page,Bid\r\nA4,{Site}/shop?{mark}4,1\r\nA1,{Site}/shop?{mark},1\r\nA2,{Site}/visit?{mark},9\r\n"
                    )
                ),
                "file",
                "next.csv"
            },
            { new StringContent(first.Text("id")), "follows" },
        };
        using var answer = await client.PostAsync("/api/v1/batches", form);
        string path = $"/api/v1/batches/{JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Text("id")}";
        var batch = await client.DoAsync(HttpMethod.Get, path);
        Assert.False(batch["isGuess"]!.GetValue<bool>());
        Assert.Equal(first.Text("id"), batch.Text("follows"));
        var difference = await client.DoAsync(HttpMethod.Get, $"{path}/difference");
        Assert.Equal(
            ("Ad", 1, 1, 1, 1),
            (
                difference.Text("key"),
                difference.Whole("same"),
                difference.Whole("changed"),
                difference.Whole("added"),
                difference.Whole("gone")
            )
        );
        Assert.Equal(
            (3, "Bid"),
            (difference["changedRows"]![0].Whole("number"), difference["changedRows"]![0]!["columns"]![0]!.GetValue<string>())
        );
        Assert.Contains("A3", difference["goneRows"]![0]!["cells"]!.ToJsonString(), StringComparison.Ordinal);
        var count = await CountAsync(client, path);
        Assert.Equal((1, 2), (count["outcomes"].Whole("new"), count["outcomes"].Whole("unchanged")));

        await client.DoAsync(HttpMethod.Post, $"{path}/run");
        await EndedAsync(client, batch.Text("id"));
        Assert.Equal(4L, await demo.Host.ScalarAsync<long>("select count(*) from links where destination like $1", $"%{mark}%"));
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await client.CallAsync(HttpMethod.Get, $"/api/v1/batches/{first.Text("id")}/difference")).Status
        );

        // Its codes come as files named by row, and as pictures in the workbook.
        using var zip = new ZipArchive(new MemoryStream(await client.GetByteArrayAsync($"{path}/codes.zip")));
        Assert.Equal(3, zip.Entries.Count);
        Assert.Matches("^00001 .+\\.svg$", zip.Entries[0].Name);
        using var pictured = SpreadsheetDocument.Open(
            new MemoryStream(await client.GetByteArrayAsync($"{path}/result.xlsx?codes=true")),
            false
        );
        var drawings = pictured.WorkbookPart!.WorksheetParts.Single().DrawingsPart!;
        Assert.Equal(3, drawings.ImageParts.Count());
        Assert.Empty(new DocumentFormat.OpenXml.Validation.OpenXmlValidator().Validate(pictured).Select(e => e.Description));
    }

    [Theory]
    [InlineData("", 400)]
    [InlineData("\0\0\0\0binary\0", 422)]
    [InlineData("\r\n\r\n", 422)]
    [InlineData("a,b\r\n\"never closed,1\r\n", 422)]
    public async Task What_is_no_sheet_is_refused_and_nothing_is_stored(string content, int status)
    {
        using var client = demo.Host.As("editor");
        long before = await demo.Host.ScalarAsync<long>("select count(*) from batches");
        var (given, problem) = await BringAsync(client, Encoding.Latin1.GetBytes(content));
        Assert.Equal(status, (int)given);
        Assert.EndsWith(".", problem.Refusal().Says, StringComparison.Ordinal);
        Assert.Equal(before, await demo.Host.ScalarAsync<long>("select count(*) from batches"));
    }

    [Fact]
    public async Task A_zip_bomb_dressed_as_a_workbook_is_refused()
    {
        using var bomb = new MemoryStream();
        using (var zip = new ZipArchive(bomb, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var entry = zip.CreateEntry("xl/workbook.xml", CompressionLevel.SmallestSize).Open();
            byte[] zeros = new byte[1 << 20];
            for (int i = 0; i < 100; i++)
            {
                entry.Write(zeros);
            }
        }

        using var client = demo.Host.As("editor");
        var (status, _) = await BringAsync(client, bomb.ToArray(), "ads.xlsx");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
    }

    [Theory]
    [InlineData("{\"destination\":7}", 400)]
    [InlineData("nonsense", 400)]
    [InlineData("{\"fields\":{}}", 422)]
    public async Task A_recipe_that_cannot_be_is_refused(string recipe, int status)
    {
        using var client = demo.Host.As("editor");
        var (given, _) = await BringAsync(client, Encoding.UTF8.GetBytes("Page\r\nhttps://marrowmere.example/\r\n"), recipe: recipe);
        Assert.Equal(status, (int)given);
    }

    [Fact]
    public async Task A_long_run_is_cancelled_goes_on_and_makes_no_row_twice()
    {
        using var client = demo.Host.As("editor");

        // Letters: a mark of digits with a row's number behind it may be somebody's phone number, which stops the row.
        string mark = string.Concat(Guid.NewGuid().ToString("N")[..8].Select(c => char.IsAsciiDigit(c) ? (char)(c - '0' + 'g') : c));
        var sheet = new StringBuilder("Page,Content\r\n");
        for (int i = 0; i < 5_000; i++)
        {
            sheet.Append(System.Globalization.CultureInfo.InvariantCulture, $"{Site}/shop?{mark},{mark}_{i}\r\n");
        }

        var (_, made) = await BringAsync(
            client,
            Encoding.UTF8.GetBytes(sheet.ToString()),
            recipe: """{"destination":{"column":"Page"},"placement":"Members’ mail","campaign":"School Visits","fields":{"content":{"column":"Content"}}}"""
        );
        string path = $"/api/v1/batches/{made.Text("id")}";
        await Eventually.Async(async () => (await client.DoAsync(HttpMethod.Get, path)).Whole("done") >= 1_000);
        await client.DoAsync(HttpMethod.Delete, path);
        var batch = await EndedAsync(client, made.Text("id"));
        long soFar = await CountLinksAsync();
        Assert.Equal("cancelled", batch.Text("state"));
        Assert.InRange(soFar, 1_000, 4_999);

        await client.DoAsync(HttpMethod.Post, $"{path}/run");
        batch = await EndedAsync(client, made.Text("id"));
        long inAll = await CountLinksAsync();
        Assert.True(
            batch.Text("state") == "finished" && inAll == 5_000 && batch["runs"]![0].Whole("made") == 5_000 - soFar,
            $"{inAll} links, {soFar} before it went on: {batch.ToJsonString()}"
        );

        Task<long> CountLinksAsync() =>
            demo.Host.ScalarAsync<long>("select count(*) from links where destination like $1", $"%/shop?{mark}");
    }

    private static async Task<JsonNode> CountAsync(HttpClient client, string path)
    {
        using var answer = await client.PostAsync($"{path}/count", null);
        return JsonNode.Parse((await answer.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries)[^1])![
            "answer"
        ]!;
    }

    private static Dictionary<string, string> CellsOf(SpreadsheetDocument document) =>
        document
            .WorkbookPart!.WorksheetParts.First()
            .Worksheet!.Descendants<Cell>()
            .ToDictionary(c => c.CellReference!.Value!, c => c.OuterXml);

    /// <summary>A workbook with a number whose zeros are only a format, a formula, a date, and a second sheet.</summary>
    private static byte[] Workbook(string page)
    {
        using var file = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(file, DocumentFormat.OpenXml.SpreadsheetDocumentType.Workbook))
        {
            var workbook = document.AddWorkbookPart();
            var sheet = workbook.AddNewPart<WorksheetPart>();
            sheet.Worksheet = new Worksheet(
                new SheetData(
                    new Row(Say("A1", "Number"), Say("B1", "Final URL"), Say("C1", "Sum"), Say("D1", "Day")) { RowIndex = 1 },
                    new Row(
                        new Cell { CellReference = "A2", CellValue = new CellValue("7") },
                        Say("B2", page),
                        new Cell
                        {
                            CellReference = "C2",
                            CellFormula = new CellFormula("A2*2"),
                            CellValue = new CellValue("14"),
                        },
                        new Cell { CellReference = "D2", CellValue = new CellValue("46082") }
                    )
                    {
                        RowIndex = 2,
                    }
                )
            );
            var second = workbook.AddNewPart<WorksheetPart>();
            second.Worksheet = new Worksheet(new SheetData());
            workbook.Workbook = new Workbook(
                new Sheets(
                    new Sheet
                    {
                        Name = "Ads",
                        SheetId = 1,
                        Id = workbook.GetIdOfPart(sheet),
                    },
                    new Sheet
                    {
                        Name = "Notes",
                        SheetId = 2,
                        Id = workbook.GetIdOfPart(second),
                    }
                )
            );
        }

        return file.ToArray();

        static Cell Say(string reference, string text) =>
            new()
            {
                CellReference = reference,
                DataType = CellValues.InlineString,
                InlineString = new InlineString(new Text(text)),
            };
    }
}
