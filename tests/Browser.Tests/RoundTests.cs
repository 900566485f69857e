using System.Diagnostics;
using OpenQA.Selenium;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>One link, all the way round: from the sentence to the code to the click to the visit to the revenue.</summary>
public sealed class RoundTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public async Task A_link_is_composed_printed_scanned_visited_and_paid_for()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");

        // Compose: three placements, one page that has a tag already, one campaign.
        browser.Click("button", "Placements: choose placements");
        foreach (string placement in new[] { "Gate poster", "Members’ mail", "Nattervine page" })
        {
            browser.Type("combobox", "Placements", placement);
            browser.Click("option", placement);
        }

        browser.Press(Keys.Escape);
        browser.Type("textbox", "Pages", $"http://{demo.GardenHost}/lantern-nights?seats=2&utm_content=stale", Keys.Enter);
        browser.Click("button", "Campaigns: choose a campaign");
        browser.Click("option", "Lantern Nights");
        browser.See("3 ready · 0 stopped");

        // One of them gets a content of its own; the others keep theirs.
        browser.Click("row", "Gate poster");
        browser.See("The address already had tags; they were replaced");
        browser.Type("textbox", "Content", "Ticket Office");
        browser.See("ticket_office");
        Assert.DoesNotContain("ticket_office", browser.Find("row", "Members’ mail").Text, StringComparison.Ordinal);

        browser.Click("button", "Save 3");
        browser.See("3 links saved");

        // The code, read by an independent reader, says its own short link.
        string code = browser.Find("img", "Code that says").GetAttribute("alt")!["Code that says ".Length..];
        Assert.StartsWith($"http://{demo.ShortHost}/", code, StringComparison.Ordinal);
        Assert.NotEqual(code, browser.Find("row", "Gate poster").Text.Split('\n')[^1].Trim());
        Assert.Equal(code, await ScanAsync(browser));

        // The phone follows it to the garden, tags and all, and buys two tickets.
        browser.Open(code);
        browser.See("Lantern Nights");
        Assert.Matches(
            $@"^http://{demo.GardenHost}/lantern-nights\?seats=2&utm_content=ticket_office&utm_source=gate_poster&utm_medium=qr&utm_campaign=\d{{4}}-\d\d_lantern_nights$",
            browser.Url
        );
        browser.Find("button", "Book");
        browser.Type("textbox", "How many", "2");
        browser.Click("button", "Book");
        browser.See("Your order");
        string order = browser.Find("strong", "").Text;
        string thanks = browser.Url;
        browser.Open(browser.Url); // a reload thanks again and counts once
        browser.See(order);

        // Arrivals: campaign, then source, then medium.
        browser.Open($"{demo.Address}/arrivals");
        browser.See("Revenue");
        browser.Until(() => browser.Text().Contains("€37.00", StringComparison.Ordinal) ? "paid" : null, "the revenue of two tickets");
        browser.Find("row", "_lantern_nights").SendKeys(Keys.ArrowRight);
        browser.Find("row", "gate_poster").SendKeys(Keys.ArrowRight);
        var medium = browser.Until(
            () => browser.All("row").FirstOrDefault(r => r.Text.StartsWith("qr", StringComparison.Ordinal)),
            "the row of the medium"
        );
        Assert.Equal(
            ["1", "100.0 % 1", "100.0 % 1", "100.0 % 1", "€37.00 each €37.00", "1"],
            medium
                .FindElements(By.CssSelector("[role=gridcell]"))
                .Take(6)
                .Select(c => string.Join(' ', c.Text.Split('\n', StringSplitOptions.TrimEntries)))
        );

        // Ledger: the scan beside its link, and the way from click to revenue in the inspector.
        browser.Click("link", "Ledger");
        browser
            .Until(
                () =>
                    browser
                        .All("row")
                        .FirstOrDefault(r =>
                            r.Text.Contains("Gate poster", StringComparison.Ordinal) && r.Text.Contains(" second", StringComparison.Ordinal)
                        ),
                "a link used just now"
            )
            .Click();
        browser.See("Visits with these tags");
        browser.Until(
            () =>
                browser.Find("complementary", "Gate poster").Text is var text && text.Contains("€37.00", StringComparison.Ordinal)
                    ? text
                    : null,
            "the link's revenue"
        );

        // The shop's own server said that the order is real, and says that one ticket went back.
        browser.Open(thanks);
        browser.Click("button", "Give one back");
        browser.See("within a week");
        browser.Open($"{demo.Address}/arrivals?rows=source&columns=verifiedConversions,refunds");
        browser.Until(
            () =>
                browser.Find("row", "gate_poster").FindElements(By.CssSelector("[role=gridcell]")).Select(c => c.Text.Trim()).ToList()
                    is var cells
                && cells.Contains("€18.50")
                    ? cells
                    : null,
            "what went back"
        );
        Assert.Equal(
            ["1", "€18.50"],
            browser.Find("row", "gate_poster").FindElements(By.CssSelector("[role=gridcell]")).TakeLast(2).Select(c => c.Text.Trim())
        );
        Assert.Empty(browser.Complaints);
    }

    /// <summary>Inside one's own site nothing is tagged: a banner is seen and clicked, a basket begun, a membership bought.</summary>
    [Fact]
    public void A_banner_is_seen_and_clicked_on_the_way_to_an_order()
    {
        using var browser = new Browser();
        browser.Open($"http://{demo.GardenHost}/visit?utm_source=spotted&utm_medium=print");
        browser.See("Come as often as you like");
        Thread.Sleep(1_500); // seen is what was in view for a second
        browser.Click("link", "Come as often as you like");
        browser.Click("button", "Book");
        browser.See("Your order");

        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/arrivals?part=spots&where=source:is:spotted");
        var cells = browser.Until(
            () =>
                browser.All("row").FirstOrDefault(r => r.Text.Contains("membership banner", StringComparison.Ordinal)) is { } row
                && row.FindElements(By.TagName("td")).Skip(1).Select(c => c.Text).ToList() is [.., "1"] its
                    ? its
                    : null,
            "the banner, with what followed"
        );
        Assert.Equal(["1", "1", "100.0 %", "1", "1"], cells.Skip(1));

        browser.Click("button", "Steps");
        browser.Click("button", "Choose steps");
        browser.Type("textbox", "Step 1", "/visit");
        browser.Choose("Step 2 is a", "spot clicked");
        browser.Type("textbox", "Step 2", "membership banner");
        browser.Click("button", "Add a step");
        browser.Choose("Step 4 is a", "conversion");
        browser.Choose("Step 3 is a", "event");
        browser.Type("textbox", "Step 3", "basket begun");
        browser.Click("button", "Show the way");
        var steps = browser.Until(
            () =>
                browser.Find("table", "Steps").FindElements(By.CssSelector("tbody tr")).Select(r => r.Text.Replace('\n', ' ')).ToList()
                    is { Count: 4 } rows
                    ? rows
                    : null,
            "the steps"
        );
        Assert.Equal(
            [
                "1. /visit 1 100.0 % 100.0 %",
                "2. Clicked membership banner 1 100.0 % 100.0 %",
                "3. basket begun 1 100.0 % 100.0 %",
                "4. Converted 1 100.0 % 100.0 %",
            ],
            steps.Select(s => s.Trim())
        );
        Assert.Empty(browser.Complaints);
    }

    /// <summary>zbarimg reads the PNG as a phone would.</summary>
    private static async Task<string> ScanAsync(Browser browser)
    {
        string picture = browser.ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            const link = [...document.querySelectorAll('a[download]')].find((a) => a.href.endsWith('.png'));
            fetch(link.href).then((r) => r.arrayBuffer()).then((b) => done(btoa(String.fromCharCode(...new Uint8Array(b)))));
            """
        );
        string file = Path.ChangeExtension(Path.GetTempFileName(), ".png");
        await File.WriteAllBytesAsync(file, Convert.FromBase64String(picture));
        using var zbar = Process.Start(new ProcessStartInfo("zbarimg", ["--quiet", "--raw", file]) { RedirectStandardOutput = true })!;
        string said = await zbar.StandardOutput.ReadToEndAsync();
        await zbar.WaitForExitAsync();
        File.Delete(file);
        return said.Trim();
    }
}
