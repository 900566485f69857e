using System.Globalization;

namespace PreciseBeacon.BrowserTests;

/// <summary>A table of another system is read, a name in it is matched by hand, and its figures stand beside ours.</summary>
public sealed class FigureTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void Figures_of_another_system_are_imported_matched_compared_and_undone()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/proof?part=reconcile");
        browser.Find("heading", "Reconcile");
        string file = Path.Combine(Path.GetTempPath(), $"figures-{Guid.NewGuid():N}.csv");
        string day = DateTime.UtcNow.AddDays(-5).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        File.WriteAllText(
            file,
            $"Day;Campaign;Impressions;Clicks\n{day};Orchid Week;12.400;640\n{day};Lantern Nihgts;900;70\n{day};Orchid Week;10;many\n"
        );
        browser.Upload("Table of figures", file);
        browser.See("2 of 3 rows can be imported");
        browser.See("“many” isn't a count");
        browser.See("probably Lantern Nights");
        Accessibility.Check(browser, "figures before they count");
        browser.Type("textbox", "Which system counts this", "Wendfar export");
        browser.Click("button", "Import 2 rows");
        browser.See("2 rows imported, 1 row left out.");
        browser.Click("button", "It is Lantern Nights");
        browser.See("One name was matched by hand");
        browser.Click("row", "Orchid Week");
        browser.See("640 clicks");
        browser.See("Not explained");
        browser.See("Week by week");
        Accessibility.Check(browser, "reconcile");
        browser.Click("button", "Close");
        browser.Click("button", "Undo figures-");
        browser.See("undone by Orla Fenwick");
        File.Delete(file);
        Assert.Empty(browser.Complaints);
    }
}
