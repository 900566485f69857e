namespace PreciseBeacon.BrowserTests;

/// <summary>A stray that arrives is assigned with what changes told before, and undone.</summary>
public sealed class StrayTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void A_stray_is_assigned_Arrivals_joins_its_row_and_undone_they_are_apart_again()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        using (var phone = new Browser())
        {
            phone.OnPhone(dark: false);
            foreach (string source in new[] { "nattervin", "nattervine" })
            {
                phone.Open($"http://{demo.GardenHost}/lantern-nights?utm_source={source}&utm_medium=social");
                phone.Find("heading", "Lantern Nights");
            }
        }

        string arrivals = $"{demo.Address}/arrivals?rows=source";
        browser.Open(arrivals);
        browser.Find("row", "nattervin");
        browser.Find("row", "nattervine");

        browser.Open($"{demo.Address}/proof?part=strays");
        browser.Click("row", "nattervin");
        browser.See("Visits before and after");
        browser.See("→ 2");
        Accessibility.Check(browser, "strays");
        browser.Press("a");
        browser.See("is read as");
        browser.Open(arrivals);
        browser.Find("row", "nattervine");
        Assert.DoesNotContain("nattervin\n", browser.Text(), StringComparison.Ordinal);

        browser.Open($"{demo.Address}/proof?part=strays");
        browser.Click("button", "Undo nattervin");
        browser.Click("row", "nattervin");
        browser.Open(arrivals);
        browser.Find("row", "nattervin");
        browser.Open($"{demo.Address}/proof");
        browser.See("nothing open");
        Accessibility.Check(browser, "findings");
        browser.Open($"{demo.Address}/proof?part=pages");
        browser.See("No page has been checked yet");
        Accessibility.Check(browser, "page checks");
        Assert.Empty(browser.Complaints);
    }
}
