using System.Diagnostics;
using OpenQA.Selenium;

namespace PreciseBeacon.BrowserTests;

/// <summary>A link is tried, found to lose its tags, mended and tried again; and from a second browser by its code, as a phone does.</summary>
public sealed class ProofTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public async Task A_link_that_loses_its_tags_fails_its_trial_and_passes_once_it_is_mended()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/proof?part=trials");
        browser.See("Select a link in the Ledger");
        Accessibility.Check(browser, "empty Proof");

        // The leaflet's link leads to an old address, whose redirect loses what stands behind the “?”.
        string compose =
            $"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/lanterns")}&placement={await demo.IdOfAsync("placements", "Gate poster")}&campaign={await demo.IdOfAsync("campaigns", "Lantern Nights")}&say=leaflet";
        browser.Open(compose);
        browser.Click("button", "Save 1");
        browser.See("1 saved");
        browser.Open($"{demo.Address}/ledger");
        browser.Click("row", "leaflet");
        browser.Click("button", "Try it");
        browser.See("drops utm_campaign, utm_content, utm_medium, utm_source");
        string app = browser.Tab;
        Accessibility.Check(browser, "a trial run");
        OpenAsVisitor(browser, browser.Find("link", "Open here").GetAttribute("href")!, app);
        browser.See("The visit arrived without utm_campaign, utm_content, utm_medium, utm_source. They are lost at redirect 1");
        SeeStep(browser, "Clicked: done");
        SeeStep(browser, "Redirected: done");
        SeeStep(browser, "Arrived with tags: failed");
        SeeStep(browser, "Measured and sorted: done");

        // Mended where the link leads; the next trial passes.
        browser.Open($"{demo.Address}/ledger");
        browser.Click("row", "leaflet");
        browser.See("Tried ");
        browser.Click("button", "Change destination");
        browser.Type("textbox", "Destination page", $"http://{demo.GardenHost}/lantern-nights");
        browser.Click("button", "Change");
        browser.Until(
            () => browser.Text().Contains("Change destination", StringComparison.Ordinal) ? "saved" : null,
            "the end of the change"
        );
        browser.Click("button", "Try it");
        browser.See("Each step lights up");
        string scanned = await ScanAsync(browser);
        Assert.Equal(browser.Find("link", "Open here").GetAttribute("href"), scanned);

        // A phone scans the code: another browser, which is signed in nowhere.
        using (var phone = new Browser())
        {
            phone.OnPhone(dark: false);
            phone.Open(scanned);
            phone.Find("heading", "Lantern Nights");
            Assert.Contains("utm_content=leaflet", phone.Url, StringComparison.Ordinal);
        }

        browser.See("The link works. It arrives as Print and codes, campaign Lantern Nights, placement Gate poster.");
        SeeStep(browser, "Arrived with tags: done");

        // Neither trial is in any figure.
        browser.Open($"{demo.Address}/arrivals?part=visits");
        browser.See("No visits");
        Assert.Empty(browser.Complaints);
    }

    private static void SeeStep(Browser browser, string says) =>
        browser.Until(
            () => browser.Script<string?>("return document.querySelector(`li[aria-label='${arguments[0]}']`) ? 'there' : null", says),
            $"the step “{says}”"
        );

    private static void OpenAsVisitor(Browser browser, string address, string back)
    {
        browser.NewTab(address);
        browser.Find("heading", "Lantern Nights");
        browser.GoToTab(back);
    }

    private static async Task<string> ScanAsync(Browser browser)
    {
        string svg = browser.ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            fetch(document.querySelector('img[alt^="Code that says"]').src).then((r) => r.text()).then(done);
            """
        );
        string file = Path.GetTempFileName();
        await File.WriteAllTextAsync(file + ".svg", svg);
        using var drawn = Process.Start("rsvg-convert", ["--width", "600", "--output", file + ".png", file + ".svg"]);
        await drawn.WaitForExitAsync();
        using var zbar = Process.Start(
            new ProcessStartInfo("zbarimg", ["--quiet", "--raw", file + ".png"]) { RedirectStandardOutput = true }
        )!;
        string said = await zbar.StandardOutput.ReadToEndAsync();
        await zbar.WaitForExitAsync();
        foreach (string ending in new[] { "", ".svg", ".png" })
        {
            File.Delete(file + ending);
        }

        return said.Trim();
    }
}
