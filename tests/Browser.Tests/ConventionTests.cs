using OpenQA.Selenium;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>A convention is changed, weighed and published, and links obey it.</summary>
public sealed class ConventionTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void A_field_with_words_and_a_name_pattern_are_weighed_published_and_obeyed()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Click("link", "Conventions");
        browser.See("Version 1");
        browser.Click("button", "Add field");
        browser.Type("textbox", "Label", "Region");
        browser.Type("textbox", "Key in the URL", "region");
        browser.Choose("Required", "every link needs one");
        browser.Choose("Values", "word list only");
        browser.Type("textbox", "Words to add", "North Coast\nsouth");
        browser.Click("button", "Add 2");
        browser.See("a draft by Orla Fenwick, saved");

        // The bench tries the draft before anybody else sees it.
        browser.Type("textbox", "A value for Region", "NORTH  coast");
        browser.See("letter case: NORTH coast → north coast");

        // The campaign is put together from date, channel and region.
        browser.Click("button", "Campaign");
        browser.Choose("Value comes from", "composed from parts");
        browser.Click("button", "Add the channel as a part");
        browser.Click("button", "Add a field as a part");
        browser.Choose("Field of part 3", "Region");
        browser.Until(
            () => browser.Find("status", "Example name").Text.EndsWith("_search-ads_north-coast", StringComparison.Ordinal) ? "" : null,
            "the example"
        );
        browser.Type("textbox", "Test a name", "2026-10_banners_south");
        browser.See("the channel\nbanners\nRegion\nsouth");
        browser.Type("textbox", "Test a name", "lanterns");
        browser.See("That doesn’t match the pattern.");
        browser.See("a draft by Orla Fenwick, saved");

        browser.Click("button", "Preview effect");
        browser.See("links would get a new notice");
        browser.See("× name does not fit");
        browser.See("No visit changes its channel.");
        browser.Click("button", "Publish");
        browser.See("Version 2");
        browser.Click("button", "Versions");
        browser.See("composed of 2026-03 _ channel _ region");

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
        browser.Type("textbox", "Region for all links without it", "nort coast");
        browser.Click("button", "Fill in");
        browser.Click("button", "Use north_coast");
        browser.See("1 ready · 0 stopped");
        browser.Until(
            () =>
                browser
                    .Find("textbox", "Campaign")
                    .GetAttribute("value")!
                    .EndsWith("_print-and-codes_north-coast", StringComparison.Ordinal)
                    ? ""
                    : null,
            "the composed campaign"
        );
        browser.Click("button", "Save 1");
        browser.See("1 link saved");

        // An old link says what it lacks; made anew, its name is repaired in one stroke.
        browser.Open($"{demo.Address}/ledger?search={Uri.EscapeDataString("Lantern Nights · Gate poster")}");
        browser.Click("row", "Lantern Nights · Gate poster");
        browser.See("Campaign says “lantern” where the channel is “print-and-codes”");
        browser.Click("button", "Rebuild in Compose");
        browser.Type("textbox", "Region for all links without it", "south");
        browser.Click("button", "Fill in");
        browser.Find("button", "_print-and-codes_south").Click();
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
        browser.See("A visit belongs to the first channel");
        Assert.DoesNotContain(browser.All("button"), b => b.Text is "Add channel" or "Preview effect" or "Upload a file");
        browser.Type("textbox", "A whole URL", $"http://{demo.GardenHost}/?utm_source=nattervine&utm_medium=social");
        browser.See("Channel Own social posts, because medium is social or organic_social.");
    }

    [Fact]
    public void A_file_is_compared_before_it_becomes_the_draft_and_words_are_merged()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/conventions?at=0");
        browser.Find("heading", "Conventions");
        string file = Path.GetFullPath(Path.Combine(WebTests.Hosting.DatabaseCluster.Root, "samples/garden-convention.yaml"));
        browser.Upload("Convention file", file);
        browser.See("Changes in this file");
        browser.See("Field utm_brand");
        browser.Click("button", "Use as draft");
        browser.See("a draft by Orla Fenwick, saved");

        // The word that goes becomes another name of the one that stays.
        browser.Click("button", "Merge wendfar into another word");
        browser.See("Choose the word to merge “wendfar” into");
        browser.Click("button", "Merge into nattervine");
        browser.See("a draft by Orla Fenwick, saved");
        Assert.Equal("natter vine, wendfar", browser.Find("textbox", "Aliases of nattervine").GetAttribute("value"));
        browser.Type("textbox", "A value for Source", "Wendfar");
        browser.See("alias of: wendfar → nattervine");

        browser.Click("button", "Rules");
        browser.Choose("Severity of word-new", "error");
        browser.See("default: warning");
        browser.Click("button", "Versions");
        browser.See("Severity of word-new");
        browser.Click("button", "Discard draft");
        browser.Until(() => browser.Text().Contains("a draft by", StringComparison.Ordinal) ? null : "", "the draft to go");
    }
}
