using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>The Ledger as a table: columns of one's own, an order, many links put away and brought back.</summary>
public sealed class LedgerTableTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void Columns_are_kept_and_many_links_are_put_away_and_brought_back()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/ledger");
        browser.Click("button", "Columns");
        browser.Click("checkbox", "Created by");
        browser.Open($"{demo.Address}/ledger?search=Station%20poster");
        browser.Find("columnheader", "Created by");
        string found = browser.Until(
            () => browser.Text().Split('\n').FirstOrDefault(l => l.EndsWith(" links", StringComparison.Ordinal) && char.IsAsciiDigit(l[0])),
            "how many there are"
        );

        browser.Click("checkbox", "Choose all on this page");
        browser.Click("button", "Archive");
        browser.See($"{found} will be archived; their short links keep working.");
        browser.Click("button", "Archive them");
        browser.See("No links match");
        browser.Click("button", "Undo");
        browser.See(found);

        browser.Click("button", "Link");
        browser.Until(() => browser.Url.Contains("order=title", StringComparison.Ordinal) ? "ordered" : null, "the order in the address");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void Many_links_are_led_elsewhere_and_back_given_a_topic_and_found_by_it()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/ledger?search=Gate%20poster");
        string found = browser.Until(
            () => browser.Text().Split('\n').FirstOrDefault(l => l.EndsWith(" links", StringComparison.Ordinal) && char.IsAsciiDigit(l[0])),
            "how many there are"
        );
        browser.Click("checkbox", "Choose all on this page");
        browser.Choose("Change selected links", "Change destination");
        browser.Type("textbox", "New destination", $"http://{demo.GardenHost}/visit");
        browser.Click("button", "Preview changes");
        browser.See($"{found} will be changed to open http://{demo.GardenHost}/visit, each with its own tags.");
        browser.Click("button", "Change destination");
        browser.See($"{found} changed to open");
        browser.Click("button", "Undo");
        browser.See($"{found} are unchanged.");

        browser.Click("checkbox", "Choose all on this page");
        browser.Choose("Change selected links", "Add topic");
        browser.Type("textbox", "Add topic", "On Paper");
        browser.Click("button", "Preview changes");
        browser.Click("button", "Add topic");
        browser.See($"{found} given the topic on paper");

        browser.Open($"{demo.Address}/ledger?by=topic");
        browser.Click("button", "on paper");
        browser.See(found);
        browser.Click("row", "Gate poster");
        browser.Click("button", "Open link page");
        browser.Click("button", "History");
        browser.See("topics from none to on paper");
        browser.See("in bulk");
        browser.Click("button", "Edit title and topics");
        browser.Type("textbox", "Topics, separated by commas", "on paper, gate");
        browser.Click("button", "Change");
        browser.See("topics from on paper to gate, on paper");
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void Slugs_of_a_list_are_looked_at_and_taken_over()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/ledger");
        browser.Click("button", "Import short links");
        browser.Type(
            "textbox",
            "Or paste the list",
            $"slug,destination\nfern-walk,http://{demo.GardenHost}/visit?utm_source=leaflet\nFern-Walk,http://{demo.GardenHost}/shop\n"
        );
        browser.Click("button", "Check list");
        browser.See("1 can be imported · 1 can’t");
        browser.See("Line 1 has the same slug; ours ignore capitals.");
        browser.Click("button", "Import 1");
        browser.See("1 imported");
        browser.Open($"http://{demo.ShortHost}/FERN-WALK");
        browser.Until(
            () => browser.Url.EndsWith("/visit?utm_source=leaflet", StringComparison.Ordinal) ? "there" : null,
            "the page it always led to"
        );
        Assert.Empty(browser.Complaints);
    }
}
