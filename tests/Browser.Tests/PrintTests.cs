using System.Diagnostics;
using OpenQA.Selenium;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>From the Ledger to paper, and from paper through a phone to Arrivals.</summary>
public sealed class PrintTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public async Task Labels_are_printed_and_one_is_scanned_and_arrives()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/ledger?search=Gate%20poster");
        browser.Click("checkbox", "Choose all on this page");
        browser.Click("button", "Codes and print sheet");
        browser.See("It scans");
        browser.Type("textbox", "Caption", "@{bed}");
        browser.See("“bed” is unknown");
        browser.Type("textbox", "Caption", "@{placement} @{number}");
        browser.See("on its label");
        string pdf = browser.Downloaded(() => browser.Click("button", "Print sheet as PDF"));
        string page = await RasterAsync(pdf);

        // The first label, of three across and eight down, under the phone.
        browser.Open($"http://phone.localhost:{new Uri($"http://{demo.GardenHost}").Port}");
        browser.Upload("Picture", page);
        var seen = browser.Find("img", "What the phone sees");
        browser.Until(
            () =>
            {
                browser.ClickAt(seen, 1 / 6d, 1 / 18d);
                return browser.Text().Contains($"It says http://{demo.ShortHost}/", StringComparison.Ordinal) ? "read" : null;
            },
            "a code read by the phone"
        );
        browser.Click("link", "Follow it");
        browser.Until(
            () => browser.Url.Contains("utm_source=gate_poster", StringComparison.Ordinal) ? "there" : null,
            "the garden, with the poster's tags"
        );

        browser.Open($"{demo.Address}/ledger?search=Gate%20poster");
        browser.Until(
            () =>
                browser
                    .All("row")
                    .FirstOrDefault(r =>
                        r.Text.Contains("Gate poster", StringComparison.Ordinal) && r.Text.Contains(" second", StringComparison.Ordinal)
                    ),
            "a code used just now"
        );
        browser.Open($"{demo.Address}/arrivals");
        browser
            .Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("wreath", StringComparison.Ordinal)), "the campaign")
            .SendKeys(Keys.ArrowRight);
        browser.Find("row", "gate_poster");

        // The browser itself remarks on the refusal that was provoked.
        Assert.All(browser.Complaints, c => Assert.Contains("/codes/count", c, StringComparison.Ordinal));
    }

    [Fact]
    public void A_code_is_designed_and_what_will_not_scan_is_not_handed_out()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/ledger?search=Gate%20poster");
        browser.Click("row", "Gate poster");
        browser.Click("button", "Open link page");
        browser.Click("button", "Code");
        browser.See("Scans");
        browser.Find("link", "EPS");
        browser.Type("textbox", "Foreground", "#FFFFFF");
        browser.Type("textbox", "Background", "#1E2230");
        browser.See("Doesn’t scan");
        Assert.DoesNotContain(browser.All("link"), l => l.Text == "EPS");
        browser.Type("textbox", "Foreground", "#1E2230");
        browser.Type("textbox", "Background", "#FFFFFF");
        browser.See("Scans");
        Assert.Empty(browser.Complaints);
    }

    private static async Task<string> RasterAsync(string pdf)
    {
        string picture = Path.ChangeExtension(pdf, ".png");
        using var gs = Process.Start(
            new ProcessStartInfo(
                "gs",
                [
                    "-q",
                    "-dSAFER",
                    "-dBATCH",
                    "-dNOPAUSE",
                    "-dFirstPage=1",
                    "-dLastPage=1",
                    "-sDEVICE=pnggray",
                    "-r200",
                    $"-sOutputFile={picture}",
                    pdf,
                ]
            )
        )!;
        await gs.WaitForExitAsync();
        return picture;
    }
}
