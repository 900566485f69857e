using OpenQA.Selenium;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>Planning: campaigns, planned links, and two people at one thing.</summary>
public sealed class PlanTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void A_campaign_is_planned_made_and_taken_up_again_next_year()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/plan");
        browser.Click("button", "New campaign");
        browser.Type("textbox", "Name", "Moss Weekend");
        browser.Type("textbox", "First day", "6 Mar 2027", Keys.Tab);
        browser.Type("textbox", "Last day", "7.3.2027", Keys.Tab);
        browser.Until(
            () => browser.Find("textbox", "Tags").GetAttribute("placeholder") == "2027-03_moss_weekend" ? "proposed" : null,
            "the value proposed in the way of the others"
        );
        browser.Click("button", "Add campaign");
        browser.Find("heading", "Moss Weekend");

        string sheet = Path.Combine(Path.GetTempPath(), $"planned-{Guid.NewGuid():N}.csv");
        File.WriteAllText(
            sheet,
            $"Page,Placement,Content\nhttp://{demo.GardenHost}/visit,Gate poster,\nhttp://{demo.GardenHost}/visit,Nobody’s wall,\n"
        );
        browser.Upload("Sheet of planned links", sheet);
        browser.See("2 rows read; not saved yet.");
        browser.See("Row 3: There is no placement “Nobody’s wall”");
        browser.Click("button", "Plan 2");
        browser.See("1 ready · 1 incomplete · 0 made");
        browser.See("The placement is missing.");
        browser.Choose("Placement of new link", "Members’ mail");
        browser.See("2 ready · 0 incomplete · 0 made");
        browser.Click("button", "Create 2");
        browser.See("2 links made.");
        browser.See("0 ready · 0 incomplete · 2 made");
        File.Delete(sheet);

        browser.Click("button", "Next season");
        browser.Click("button", "Create campaign");
        browser.Find("heading", "Moss Weekend 2028");
        browser.See("6 Mar 2028 – 7 Mar 2028"); // 2028 is a leap year; the first day keeps its date
        browser.See("2 ready");
        browser.Click("button", "All campaigns");
        browser.Find("button", "Moss Weekend");
    }

    [Fact]
    public void Two_tabs_on_one_campaign_never_overwrite_one_another_unseen()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/plan");
        browser.Click("row", "Volunteer Call");
        browser.Click("button", "Change");
        browser.Type("textbox", "Goal", "Forty helpers by spring.");
        string first = browser.Tab;

        browser.NewTab(browser.Url);
        browser.Click("button", "Change");
        browser.Type("textbox", "Goal", "Fifty helpers by summer.");
        browser.Click("button", "Save campaign");
        browser.See("Fifty helpers by summer.");

        browser.GoToTab(first);
        browser.Click("button", "Save campaign");
        browser.See("Tomas Birch changed “Volunteer Call” meanwhile");
        browser.See("yours “Forty helpers by spring.”, theirs “Fifty helpers by summer.”");
        browser.Click("button", "Save mine anyway");
        browser.See("Forty helpers by spring.");
        browser.Open(browser.Url);
        browser.See("Forty helpers by spring.");
        Assert.DoesNotContain("Fifty", browser.Text(), StringComparison.Ordinal);
    }

    [Fact]
    public void Links_are_handed_over_to_a_partner_without_an_account()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/plan?view=handed-over");
        browser.Click("button", "Share with a partner");
        browser.Type("textbox", "Partner", "Mossgate Guide");
        browser.Find("button", "Placements: Mossgate Guide");
        browser.Click("button", "Create page");
        browser.See("Anyone with this address can view it:");
        string address = browser.Script<string>(
            "return [...document.querySelectorAll('p')].map((p) => p.textContent).find((t) => t.includes('/for/'))"
        );

        using var partner = new Browser();
        partner.Open(address);
        partner.See("Links for Mossgate Guide");
        partner.Find("link", "XLSX");
        string link = partner.Script<string>("return document.querySelector('.take').textContent");
        partner.Open(link);
        Assert.Contains("utm_source=mossgate_guide", partner.Url, StringComparison.Ordinal);
        Assert.Empty(partner.Complaints);

        browser.Open($"{demo.Address}/plan?view=handed-over");
        browser.See("1 ×");
        browser.Click("button", "Revoke");
        browser.See("revoked");
        partner.Open(address);
        partner.See("There is nothing here");
    }

    [Fact]
    public void Anything_is_found_from_anywhere()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Wren Castell");
        browser.Press(Keys.Control, "k");
        browser.Find("combobox", "Go anywhere");
        browser.Press("vale referral");
        browser.Find("option", "Vale Visitor Board");
        browser.Press(Keys.Control, "a");
        browser.Press("orchid");
        browser.Click("option", "Orchid Week");
        browser.See("6 still to create");
        Assert.DoesNotContain(browser.All("button"), b => b.Text.StartsWith("Change", StringComparison.Ordinal)); // a viewer only looks
    }

    [Fact]
    public void Pages_are_read_from_the_sites_own_list()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/plan?view=pages");
        browser.Click("button", $"Read {demo.GardenHost}");
        browser.See("18 pages found");
        browser.Type("textbox", "Search pages", "moths");
        browser.Until(() => browser.All("row").Count == 2 ? "one" : null, "the one page");
        browser.Click("link", "Night Moths Walk");
        browser.Find("heading", "Compose");
        browser.See("1 link");
    }

    [Fact]
    public void Costs_are_imported_from_a_table_seen_in_Arrivals_and_undone()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/plan?view=costs");
        browser.See("No costs were imported yet.");
        string file = Path.Combine(Path.GetTempPath(), $"costs-{Guid.NewGuid():N}.csv");
        string day = DateTime.UtcNow.AddDays(-2).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        File.WriteAllText(
            file,
            $"Day;Campaign;Cost\n{day};Lantern Nights;1.234,50\n{day};Lantern Nights;free\n;Lantern Nights;3,00\n{day};Lantern Nite;3,00\n"
        );
        browser.Upload("Table of costs", file);
        browser.See("1 of 4 rows can be imported: €1,234.50");
        browser.See("“free” isn't an amount.");
        browser.See("There is no day.");
        browser.See("No campaign is called “Lantern Nite”");
        browser.Click("button", "Import 1 row");
        browser.See("1 row imported, 3 rows left out.");
        browser.Open($"{demo.Address}/arrivals?rows=country&stations=visits,cost");
        browser.See("Not broken down");
        browser.Open($"{demo.Address}/plan?view=costs");
        browser.See("€1,234.50");
        browser.Click("button", "Undo ");
        browser.See("undone by Orla Fenwick");
        File.Delete(file);
    }

    [Fact]
    public void A_rate_of_today_leaves_the_past_alone()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/plan?view=placements");
        browser.Click("row", "Skeinly paid posts");
        browser.See("€0.62 per click");
        browser.Type("textbox", "Amount in EUR", "0.70");
        browser.Click("button", "Add rate");
        browser.See("€0.70 per click");
        browser.Click("button", "Remove the rate from");
        browser.Until(() => browser.Text().Contains("€0.70 per click", StringComparison.Ordinal) ? null : "", "the rate to go");
        Assert.Empty(browser.Complaints);
    }
}
