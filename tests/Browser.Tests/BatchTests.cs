using System.Text;
using OpenQA.Selenium;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>Sheets through the real interface, from the files to try.</summary>
public sealed class BatchTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    private static string Sample(string name) => Path.Combine(DatabaseCluster.Root, "samples", name);

    [Fact]
    public async Task A_community_sheet_is_repaired_in_the_grid_run_and_taken_back()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches");
        browser.Upload("Sheet", Sample("community-groups.csv"));
        browser.Find("heading", "community-groups.csv");
        browser.See("This recipe was guessed");
        browser.Click("button", "Looks right");
        browser.Click("button", "Preview run");
        browser.See("Create 28 links");
        browser.See("1 × missing required");
        browser.See("1 × word unknown");

        // The two faulty rows: one repair of the rule's own, one value typed.
        browser.Click("button", "1 × word unknown");
        Open(browser, "comunity");
        browser.See("did you mean “community”?");
        browser.Click("button", "Use community");
        browser.See("1 row changed.");
        browser.Choose("Rows shown", "missing required", begins: true);
        browser.Until(() => browser.All("row").Count == 2 ? "one" : null, "the one row that lacks something");
        Open(browser, "007");
        browser.See("Medium is missing");
        browser.Type("textbox", "Medium", "community", Keys.Enter);
        browser.See("1 row changed.");
        browser.Choose("Rows shown", "All rows");
        browser.Click("button", "Preview run");
        browser.Click("button", "Create 30 links");
        browser.See("30 created, 0 stopped");

        // The way out has every column as it was, and thirty links.
        browser.Click("button", "Download");
        browser.Find("link", "CSV");
        string result = browser.ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            fetch([...document.querySelectorAll('a')].find((a) => a.textContent.includes('CSV')).href).then((r) => r.text()).then(done);
            """
        );
        var before = TableText.Read(
            FileText.Decode(await File.ReadAllBytesAsync(Sample("community-groups.csv")), FileEncoding.Windows1252),
            ';'
        );
        var after = TableText.Read(result.TrimStart('\uFEFF'), ';');
        Assert.Equal(before.Headings, after.Headings.Take(before.Headings.Count));
        Assert.All(before.Rows.Zip(after.Rows), r => Assert.Equal(r.First, r.Second.Take(r.First.Count)));
        Assert.All(after.Rows, r => Assert.Contains("utm_medium=community", r[before.Headings.Count], StringComparison.Ordinal));
    }

    [Fact]
    public void An_ad_export_gets_its_links_in_place_and_the_placeholder_stays()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches");
        browser.Upload("Sheet", Sample("ad-export.xlsx"));
        browser.Find("heading", "ad-export.xlsx");
        browser.See("137 rows");
        Feed("Placement", "Placement: one value for all rows", "Wendfar search ads");
        Feed("Campaign", "Campaign: one value for all rows", "Lantern Nights");
        browser.Choose("Write links into", "Destination URL, replacing it");
        browser.Click("button", "Preview run");
        browser.Click("button", "Create 137 links");
        browser.See("137 created, 0 stopped");
        browser.See("{keyword}");
        browser.Click("button", "Download");
        byte[] result = browser.Download("XLSX");

        // Back where it came from: the account takes the sheet whole, and shows each ad with its tagged destination.
        string sheet = Path.Combine(Path.GetTempPath(), $"ads-{Guid.NewGuid():N}.xlsx");
        File.WriteAllBytes(sheet, result);
        browser.Open(demo.AdsAddress);
        browser.See("137 ads.");
        browser.Upload("Sheet", sheet);
        browser.Click("button", "Upload sheet");
        browser.See("137 ads changed, 0 unchanged.");
        browser.See("kw={keyword}&utm_source=wendfar&utm_medium=cpc");
        browser.Upload("Sheet", sheet);
        browser.Click("button", "Upload sheet");
        browser.See("0 ads changed, 137 unchanged.");
        File.Delete(sheet);

        // As strict as such places are: one broken row, and nothing is taken.
        string broken = Path.Combine(Path.GetTempPath(), $"ads-{Guid.NewGuid():N}.csv");
        File.WriteAllText(
            broken,
            "Title,Text,Ad group,Destination URL,Ad no.\nA,B,C,marrowmere.example/visit,00301\nA,B,C,https://marrowmere.example/,99999\n"
        );
        browser.Upload("Sheet", broken);
        browser.Click("button", "Upload sheet");
        browser.See("Row 2: its “Destination URL” isn't a web address.");
        browser.See("Row 3: this account has no ad 99999.");
        File.Delete(broken);

        void Feed(string target, string label, string value)
        {
            browser.Choose(target, "one value for all rows …");
            browser.Type("textbox", label, value, Keys.Enter);
            browser.Until(
                () =>
                    browser.Script<bool>("return document.querySelector('progress') === null")
                    && browser.Find("textbox", label).GetAttribute("value") == value
                        ? value
                        : null,
                value
            );
        }
    }

    [Fact]
    public void Cells_are_typed_filled_pasted_taken_back_and_rows_ordered_without_losing_their_places()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches");
        browser.Paste(
            $"Page\tContent\tShelf\n{string.Join('\n', Enumerable.Range(1, 12).Select(i => $"http://{demo.GardenHost}/shop\tlabel_{i}\t{13 - i}"))}",
            "Pasted cells"
        );
        browser.See("12 rows");

        // One value typed, filled down by the keyboard, then three cells more by dragging the corner.
        Cell(browser, "Placement", 1).Click();
        browser.Press("M");
        browser.Type("textbox", "Placement, row 1", "Members’ mail", Keys.Enter);
        browser.See("1 row changed.");
        Cell(browser, "Placement", 1).Click();
        browser.Press(Keys.Shift, Keys.Down);
        browser.Press(Keys.Shift, Keys.Down);
        browser.Press(Keys.Control, "d");
        browser.See("2 rows changed.");
        Cell(browser, "Placement", 3).Click();
        browser.Drag(
            browser.Until(
                () => browser.All("gridcell").SelectMany(c => c.FindElements(By.CssSelector("[title^='Drag down']"))).FirstOrDefault(),
                "the corner to drag"
            ),
            Cell(browser, "Placement", 6)
        );
        browser.See("3 rows changed.");
        Holds(browser, "Placement", 6, "Members’ mail");

        // A block from another program, two columns wide.
        Cell(browser, "Placement", 7).Click();
        browser.PasteHere("Leaflets\tSeed Swap\r\nLeaflets\tBulb Sale\r\n");
        browser.See("2 rows changed.");
        Holds(browser, "Campaign", 8, "Bulb Sale");
        browser.Press(Keys.Control, "z");
        browser.See("Undone: pasting into 2 rows.");
        Holds(browser, "Campaign", 8, "");
        browser.Click("button", "Undo");
        browser.See("Undone: filling 3 rows.");
        Holds(browser, "Placement", 6, "");
        browser.Click("button", "Redo");
        browser.See("Redone: filling 3 rows.");
        Holds(browser, "Placement", 6, "Members’ mail");

        // Ordered by a column of numbers; each row keeps its number, and what is typed goes where it is meant.
        browser.Click("button", "Shelf");
        browser.Until(
            () => browser.All("row")[1].Text.StartsWith("12", StringComparison.Ordinal) ? "12" : null,
            "row 12 with shelf 1 at the top"
        );
        Cell(browser, "Placement", 12).Click();
        browser.Press("L");
        browser.Type("textbox", "Placement, row 12", "Leaflets", Keys.Enter);
        Holds(browser, "Placement", 12, "Leaflets");
        browser.Click("button", "Shelf");
        browser.Click("button", "Shelf");
        browser.Until(() => browser.All("row")[1].Text.StartsWith("1\n", StringComparison.Ordinal) ? "1" : null, "row 1 at the top again");
    }

    private static IWebElement Cell(Browser browser, string column, int row) =>
        browser.Until(
            () =>
                browser
                    .All("gridcell")
                    .FirstOrDefault(c =>
                        c.GetAttribute("aria-label")?.StartsWith($"{column}, row {row}:", StringComparison.Ordinal) == true
                    ),
            $"the cell {column} of row {row}"
        );

    private static void Holds(Browser browser, string column, int row, string text) =>
        browser.Until(() => Cell(browser, column, row).Text == text ? "as wanted" : null, $"“{text}” in {column} of row {row}");

    /// <summary>Opens the inspector of the row that has a text.</summary>
    private static void Open(Browser browser, string text) =>
        browser.Until(
            () =>
            {
                try
                {
                    var row = browser.All("row").Skip(1).FirstOrDefault(r => r.Text.Contains(text, StringComparison.Ordinal));
                    row?.FindElements(By.CssSelector("[role=gridcell]"))[1].Click();
                    return row;
                }
                catch (StaleElementReferenceException)
                {
                    return null;
                }
            },
            $"the row with “{text}”"
        );

    [Fact]
    public void A_long_run_is_left_cancelled_and_gone_on_with()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches");
        string sheet = Path.Combine(Path.GetTempPath(), $"long-{Guid.NewGuid():N}.csv");
        File.WriteAllLines(
            sheet,
            Enumerable.Range(1, 20_000).Select(i => $"http://{demo.GardenHost}/shop,label_{i}").Prepend("Page,Content")
        );
        browser.Upload("Sheet", sheet);
        browser.See("20,000 rows");
        File.Delete(sheet); // the browser reads it as it sends it
        browser.Choose("Placement", "one value for all rows …");
        browser.Type("textbox", "Placement: one value for all rows", "Members’ mail", Keys.Enter);
        browser.Choose("Campaign", "one value for all rows …");
        browser.Type("textbox", "Campaign: one value for all rows", "School Visits", Keys.Enter);
        browser.Click("button", "Preview run");
        browser.Click("button", "Create 20,000 links");
        browser.See("you can leave this page, it continues");
        string here = browser.Url;
        browser.Open($"{demo.Address}/ledger");
        browser.Find("heading", "Ledger");
        browser.Open(here);
        browser.Click("button", "Cancel the run");
        browser.See("cancelled");

        browser.Click("button", "Preview run");
        browser.Find("complementary", "Preview");
        string counted = browser.Find("complementary", "Preview").Text;
        Assert.Contains("unchanged", counted, StringComparison.Ordinal);
        browser.Click("button", "Create ");
        browser.See("finished", patience: TimeSpan.FromMinutes(2)); // 10,000 rows, on whatever machine this is
        browser.Click("button", "Runs");
        string[] made =
        [
            .. browser
                .Find("complementary", "Runs")
                .Text.Split('\n')
                .Where(l => l.Contains(" created,", StringComparison.Ordinal))
                .Select(l => l.Split(' ')[0].Replace(",", "", StringComparison.Ordinal)),
        ];
        Assert.Equal(20_000, made.Sum(m => int.Parse(m, System.Globalization.CultureInfo.InvariantCulture)));
    }

    [Fact]
    public void What_is_no_sheet_is_refused_with_the_reason_and_pasted_cells_are_a_sheet()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/batches");
        string broken = Path.Combine(Path.GetTempPath(), $"broken-{Guid.NewGuid():N}.xlsx");
        File.WriteAllBytes(broken, Encoding.ASCII.GetBytes("PK but nothing more"));
        browser.Upload("Sheet", broken);
        browser.Find("alert", "");
        File.Delete(broken);
        browser.Paste($"Page\tContent\nhttp://{demo.GardenHost}/visit\tcorner", "Pasted cells");
        browser.Find("heading", "Pasted cells");
        browser.See("1 row");
    }
}
