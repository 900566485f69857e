using System.Globalization;
using OpenQA.Selenium;

namespace PreciseBeacon.BrowserTests;

/// <summary>Mornings with Arrivals: what worked, what happened, who is there.</summary>
public sealed class ArrivalsTests(VisitedDemo demo) : IClassFixture<VisitedDemo>
{
    [Fact]
    public void Which_of_these_placements_worked_is_found_kept_and_handed_on()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        int before = browser.Actions;
        browser.Click("link", "Arrivals");
        browser.Choose("Rows, level 2", "placement");
        browser.Click("button", "Revenue per visit");
        OpenRow(browser, "Lantern Nights");
        var placements = browser.Until(() => Below(browser) is { Count: > 1 } rows ? rows : null, "the campaign's placements");
        int found = browser.Actions - before + 1; // the row was opened by a key
        Assert.InRange(found, 1, 6);

        // The best comes first, those without a figure last.
        decimal?[] each = [.. placements.Select(p => Money(CellsOf(p)[^1]))];
        Assert.NotNull(each[0]);
        Assert.Equal(each.Where(e => e is not null).OrderByDescending(e => e), each.TakeWhile(e => e is not null));

        browser.Click("button", "Views");
        browser.Type("textbox", "Name of the view", "Best placements", Keys.Enter);
        Assert.InRange(browser.Actions - before + 1, 1, 10);
        browser.Press(Keys.Escape);
        Assert.Equal("page", browser.Find("button", "Best placements").GetAttribute("aria-current"));

        // Compared with the span before, each figure says how it differs.
        browser.Choose("Compare with", "The span before");
        browser.Until(
            () => browser.Find("row", "Everything").Text is var text && text.Contains(" %", StringComparison.Ordinal) ? text : null,
            "differences"
        );
        browser.Click("button", "More");
        string csv = File.ReadAllText(browser.Downloaded(() => browser.Click("menuitem", "Export as CSV")));
        Assert.Contains("Revenue per visit, before", csv, StringComparison.Ordinal);
        Assert.Contains("Lantern Nights", csv, StringComparison.Ordinal);

        // Opened again, the place shows the view that was open last.
        browser.Open($"{demo.Address}/ledger");
        browser.Click("link", "Arrivals");
        browser.Until(
            () => browser.Url.Contains("placement", StringComparison.Ordinal) ? browser.Find("row", "Lantern Nights") : null,
            "the saved view"
        );
        Assert.DoesNotContain("compare", browser.Url, StringComparison.Ordinal);
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void What_happened_is_looked_at_visit_by_visit_and_noted()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/arrivals");
        browser.Find("row", "Everything");
        browser.Click("button", "Visits");
        browser
            .Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("email", StringComparison.Ordinal)), "a visit by mail")
            .Click();
        browser.See("Tags as they came");
        browser.Find("complementary", "Visit of");
        browser.Press(Keys.Escape);

        browser.Click("button", "More");
        browser.Click("menuitem", "Notes on a day");
        browser.Type("textbox", "What happened", "The newsletter went out twice");
        browser.Click("button", "Save note");
        browser.See("Tomas Birch");
        browser.Press(Keys.Escape);
        browser.Click("button", "Rows");
        Assert.Contains("went out twice", browser.Find("button", "Note on").GetAttribute("aria-label"), StringComparison.Ordinal);

        // The range is moved and stretched with keys alone.
        string Says() => browser.Find("slider", "Range").GetAttribute("aria-valuetext")!;
        string first = Says();
        browser.Find("slider", "Range").SendKeys(Keys.ArrowLeft);
        browser.Until(() => Says() != first ? "moved" : null, "another range");
        Assert.Contains("from=", browser.Url, StringComparison.Ordinal);

        // A row narrows the report with one key, and leaves it again.
        browser.Find("row", "Lantern Nights").SendKeys("f");
        browser.Click("button", "Remove the filter campaign is Lantern Nights");
        browser.Find("row", "School Visits");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void Whoever_arrives_is_seen_within_seconds_beside_any_place()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/arrivals");
        browser.Find("row", "Everything");
        browser.Press("w");
        browser.Find("complementary", "Watch");
        browser.Click("link", "Ledger");
        browser.Find("complementary", "Watch");
        string here = browser.Tab;
        browser.NewTab($"http://{demo.GardenHost}/volunteer?utm_source=quillwort_notes&utm_medium=email");
        browser.Find("heading", "");
        browser.GoToTab(here);
        browser.Until(
            () => browser.Find("complementary", "Watch").Text.Contains("quillwort_notes", StringComparison.Ordinal) ? "there" : null,
            "the visit that has just begun"
        );
        browser.Click("button", "Pause");
        browser.See("Paused");
        browser.Click("button", "Close Watch");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void Two_seasons_stand_side_by_side_and_countries_on_a_map()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/arrivals?rows=source");
        browser.Choose("Compare with", "Campaigns side by side");
        browser.Click("button", "Campaigns: choose two to six");
        browser.Click("option", "School Visits");
        browser.Click("option", "Volunteer Call");
        browser.Press(Keys.Escape);
        browser.Find("columnheader", "School Visits");
        browser.Find("columnheader", "Volunteer Call");
        Assert.Contains(" %", browser.Find("row", "Everything").Text, StringComparison.Ordinal);
        browser.Choose("Figure", "Conversion rate");
        browser.Until(() => browser.Find("row", "Everything").Text.Count(c => c == '%') >= 2 ? "rates" : null, "conversion rates");

        browser.Choose("Compare with", "No comparison");
        browser.Click("button", "Map");
        browser.Find("row", "Ireland").Click();
        browser.Find("complementary", "Ireland");
        browser.Click("button", "Filter by this row");
        browser.Find("button", "Remove the filter country is Ireland");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void A_phone_shows_the_ruler_and_the_board_without_scrolling_sideways()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.OnPhone(dark: true, width: 360);
        browser.Open($"{demo.Address}/arrivals");
        var row = browser.Find("row", "Lantern Nights");
        browser.Find("slider", "Range");
        Assert.Equal(2, row.FindElements(By.CssSelector("[role=gridcell]")).Count);
        Assert.Equal(360, browser.Script<long>("return document.documentElement.scrollWidth"));
        Assert.True(browser.Script<bool>("const b = document.querySelector('[data-board]'); return b.scrollWidth <= b.clientWidth"));
        Accessibility.Check(browser, "Arrivals on a phone");
        row.Click();
        browser.Find("complementary", "Lantern Nights");
        browser.Click("button", "Close");
        Assert.Empty(browser.Complaints);
    }

    private static void OpenRow(Browser browser, string name) => browser.Find("row", name).SendKeys(Keys.ArrowRight);

    /// <summary>Rows below an opened one.</summary>
    private static List<IWebElement> Below(Browser browser) =>
        [
            .. browser
                .All("row")
                .Where(r => r.GetAttribute("aria-level") == "3" && r.FindElements(By.CssSelector("[role=gridcell]")).Count > 1),
        ];

    private static List<string> CellsOf(IWebElement row) => [.. row.FindElements(By.CssSelector("[role=gridcell]")).Select(c => c.Text)];

    private static decimal? Money(string cell) =>
        decimal.TryParse(cell.TrimStart('€'), NumberStyles.Number, CultureInfo.InvariantCulture, out decimal amount) ? amount : null;
}
