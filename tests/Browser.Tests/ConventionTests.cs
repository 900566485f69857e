using OpenQA.Selenium;

namespace PreciseBeacon.BrowserTests;

/// <summary>A convention is changed, weighed and published, and links obey it.</summary>
public sealed class ConventionTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void A_field_with_words_is_added_weighed_published_and_obeyed()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Click("link", "Conventions");
        browser.See("Version 1 holds");
        browser.Click("button", "Add a field");
        browser.Type("textbox", "Label", "Region");
        browser.Type("textbox", "Key in the URL", "region");
        Choose(browser, "On a link", "every link needs one");
        Choose(browser, "Values", "words and nothing else");
        browser.Type("textbox", "Words to add", "North Coast\nsouth");
        browser.Click("button", "Add 2");
        browser.See("a draft by Orla Fenwick, saved");

        // The bench tries the draft before anybody else sees it.
        browser.Type("textbox", "A value for Region", "NORTH  coast");
        browser.See("letter case: NORTH coast → north coast");

        browser.Click("button", "See effect");
        browser.See("links would have a new notice");
        browser.See("All visits stay in their channels.");
        browser.Click("button", "Publish");
        browser.See("Version 2 holds");

        // A link without a region is stopped now, and obeys once it has one.
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/visit")}");
        browser.Click("button", "Placements: choose placements");
        browser.Click("option", "Gate poster");
        browser.Press(Keys.Escape);
        browser.Click("button", "Campaigns: choose a campaign");
        browser.Click("option", "School Visits");
        browser.See("0 ready · 1 stopped");
        browser.Click("row", "Gate poster");
        browser.See("Region is missing");
        browser.Type("textbox", "Region", "nort coast");
        browser.Click("button", "Use north_coast");
        browser.See("1 ready · 0 stopped");
        browser.Click("button", "Save 1");
        browser.See("1 link saved");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void A_channel_moved_up_sorts_the_past_anew_and_a_viewer_only_looks()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Wren Castell");
        browser.Open($"{demo.Address}/conventions?at=channels");
        browser.See("The first row whose conditions are all met");
        Assert.DoesNotContain(browser.All("button"), b => b.Text is "Add a channel" or "See effect" or "Load a file");
        browser.Type("textbox", "A whole URL", $"http://{demo.GardenHost}/?utm_source=nattervine&utm_medium=social");
        browser.See("Claimed by Own social posts, because medium is social or organic_social.");
    }

    private static void Choose(Browser browser, string label, string option)
    {
        var select = browser.Find("combobox", label);
        select.FindElements(By.TagName("option")).First(o => o.Text == option).Click();
    }
}
