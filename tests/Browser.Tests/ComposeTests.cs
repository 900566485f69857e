using System.Net.Http.Json;
using System.Text.Json.Nodes;
using OpenQA.Selenium;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>The daily work in Compose, done as people do it.</summary>
public sealed class ComposeTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void Ten_links_for_one_campaign_are_made_from_the_keyboard_alone()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.TabTo("Placements: choose placements");
        browser.Press(Keys.Enter);
        browser.Until(() => browser.Focused == "Placements" ? "open" : null, "the list of placements");
        foreach (string placement in new[] { "header button", "footer link", "Members", "SMS", "Vale Visitor" })
        {
            browser.Press(placement);
            browser.Until(
                () =>
                    browser
                        .All("option")
                        .FirstOrDefault(o =>
                            o.GetAttribute("aria-selected") == "true" && o.Text.Contains(placement, StringComparison.Ordinal)
                        ),
                $"“{placement}” chosen among the placements"
            );
            browser.Press(Keys.Enter);
            browser.Press(Keys.Control, "a");
        }

        browser.Press(Keys.Escape);
        browser.Find("button", "Placements: 5 placements");

        // The first page by its title, the second by its address.
        browser.TabTo("Pages");
        browser.Press("plan your vis");
        browser.Find("option", "Plan your visit");
        browser.Press(Keys.ArrowDown);
        browser.Press(Keys.Enter);
        browser.See($"{demo.GardenHost}/visit");
        browser.Press($"http://{demo.GardenHost}/lantern-nights");
        browser.Press(Keys.Enter);
        browser.TabTo("Campaigns: choose a campaign");
        browser.Press(Keys.Enter);
        browser.Until(() => browser.Focused == "Campaigns" ? "open" : null, "the list of campaigns");
        browser.Press("lantern");
        browser.Press(Keys.Enter);
        browser.See("10 ready · 0 stopped");
        browser.Press(Keys.Control, Keys.Enter);
        browser.See("existing links used and copied.");
        browser.See("10 saved");
    }

    [Fact]
    public async Task Thirty_groups_are_worked_through_with_one_text()
    {
        using var http = new HttpClient { BaseAddress = new Uri(demo.Address) };
        http.DefaultRequestHeaders.Authorization = new("Bearer", "demo-editor");
        var placements = new List<string>();
        for (int i = 1; i <= 30; i++)
        {
            var made = await PostAsync(
                "/api/v1/placements",
                new
                {
                    name = $"Allotment group {i:00}",
                    channel = "Communities",
                    defaults = new
                    {
                        source = "pippinwall",
                        medium = "community",
                        content = $"allotment_{i:00}",
                    },
                }
            );
            placements.Add(made["id"]!.GetValue<string>());
        }

        await PostAsync("/api/v1/placement-sets", new { name = "Allotments", placements });
        await PostAsync("/api/v1/campaigns", new { name = "Seedling Swap" });

        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/seed-swap")}");
        browser.Click("button", "Placements: choose placements");
        browser.Click("option", "All of “Allotments”");
        browser.Press(Keys.Escape);
        browser.Click("button", "Campaigns: choose a campaign");
        browser.Click("option", "Seedling Swap");
        browser.See("30 ready · 0 stopped");
        browser.Click("button", "Save 30");
        browser.See("30 links saved");

        browser.Click("button", "Share texts");
        browser.Type("textbox", "Text for all placements", "Swap seedlings with us, @{placement}! @{link}");
        browser.See("Swap seedlings with us, Allotment group 30!");
        browser.Click("button", "Save text");
        browser.See("Text saved.");

        // Enter copies, marks as placed and goes on; no other key is needed.
        browser.Script<object>("document.querySelector('[data-link]').focus(); return true");
        for (int i = 1; i <= 30; i++)
        {
            string name = $"Allotment group {i:00}";
            browser.Until(() => browser.Focused.StartsWith(name, StringComparison.Ordinal) ? name : null, $"the focus on {name}");
            browser.Press(Keys.Enter);
            browser.See($"Copied for {name}.");
        }

        browser.See("30 of 30 links placed");
        browser.Until(
            () => browser.Script<long>("return document.querySelectorAll('li svg[aria-label=done]').length") == 30 ? "" : null,
            "30 rows marked as placed"
        );

        async Task<JsonNode> PostAsync(string path, object body)
        {
            using var answer = await http.PostAsJsonAsync(path, body);
            string text = await answer.Content.ReadAsStringAsync();
            Assert.True(answer.IsSuccessStatusCode, text);
            return JsonNode.Parse(text)!;
        }
    }

    [Fact]
    public void A_faulty_link_is_pasted_mended_and_saved()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Paste($"http://{demo.GardenHost}/visit?a=1?utm_soruce=natter+vine&amp;utm_medium=emial&utm_campaign=Spring", "Pages");
        browser.See("1 link read back · 1 with something to repair");
        browser.See($"http://{demo.GardenHost}/visit?a=1&utm_source=nattervine&utm_medium=emial&utm_campaign=spring");
        browser.Click("button", "Use the repaired link");
        browser.See("Read back: 3 fields");
        browser.See("0 ready · 1 stopped");
        browser.Click("row", "No placement");
        browser.See("“emial” is not in its word list; did you mean “email”?");
        browser.Click("button", "Use email");
        browser.See("1 ready · 0 stopped");
        browser.Press(Keys.Control, Keys.Enter);
        browser.See("1 link saved and copied");
        Assert.Contains("email", browser.Find("row", "No placement").Text, StringComparison.Ordinal);
    }

    [Fact]
    public void Many_links_are_read_back_at_once_wherever_they_are_pasted()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Paste(
            string.Join(
                '\n',
                Enumerable
                    .Range(1, 3)
                    .Select(i => $"http://{demo.GardenHost}/news?issue={i}&utm_source=Trellis&utm_medium=E-mail&utm_campaign=issue_{i}")
            ) + "\njavascript:alert(1)"
        );
        browser.See("4 links read back");
        browser.See("can’t be repaired");
        browser.Click("button", "Use all 3 repaired links");
        browser.See("3 ready · 0 stopped");
        Assert.All(browser.All("row"), r => Assert.Contains("the_trellis", r.Text, StringComparison.Ordinal));

        // A reload forgets nothing of it.
        browser.Open(browser.Url);
        browser.See("3 ready · 0 stopped");
        browser.Click("button", "Clear");
        browser.See("No links yet");
    }

    [Fact]
    public void One_value_is_overridden_in_one_link_and_then_in_all()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/bulb-sale")}");
        browser.Click("button", "Placements: choose placements");
        foreach (string placement in new[] { "Members’ mail", "SMS reminder", "Vale Visitor Board" })
        {
            browser.Click("option", placement);
        }

        browser.Press(Keys.Escape);
        browser.See("3 links");
        browser.Click("row", "SMS reminder");
        browser.Type("textbox", "Content", "Red Tulip");
        browser.See("red_tulip");
        Assert.Equal(["SMS reminder"], RowsWith("red_tulip"));
        browser.Click("button", "For all 3");
        browser.Until(() => RowsWith("red_tulip").Count == 3 ? "all" : null, "the value in all three links");
        browser.Click("button", "Undo utm_content");
        browser.Until(() => RowsWith("red_tulip").Count == 0 ? "none" : null, "the value gone again");

        List<string> RowsWith(string text) =>
            [.. browser.All("row").Where(r => r.Text.Contains(text, StringComparison.Ordinal)).Select(r => r.Text.Split('\n')[0])];
    }

    [Fact]
    public void What_is_missing_is_asked_for_once_and_placements_differ_in_what_they_say()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/membership")}");
        browser.Click("button", "Placements: choose placements");
        browser.Click("option", "Wendfar search ads");
        browser.Click("option", "Members’ mail");
        browser.Press(Keys.Escape);
        browser.See("Campaign is missing in all 2 links");
        browser.Type("textbox", "Campaign for all links without it", "Spring Members");
        browser.Click("button", "Fill into all 2");
        browser.See("2 ready · 0 stopped");

        browser.Choose("Variants or keywords for one placement alone", "Wendfar search ads");
        browser.Type("textbox", "Variants of Wendfar search ads", "text a", Keys.Enter);
        browser.Type("textbox", "Variants of Wendfar search ads", "text b", Keys.Enter);
        browser.Type("textbox", "Keywords of Wendfar search ads", "fern garden", Keys.Enter);
        browser.Type("textbox", "Keywords of Wendfar search ads", "{keyword}", Keys.Enter);
        browser.See("5 ready · 0 stopped");
        Assert.Equal(4, browser.All("row").Count(r => r.Text.Contains("wendfar", StringComparison.Ordinal)));
        Assert.Contains("fern_garden", browser.Text(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_placement_is_made_without_leaving_Compose_and_gives_parameters_without_a_page()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Click("button", "Placements: choose placements");
        browser.Type("combobox", "Placements", "Harbour kiosk");
        browser.Click("option", "New: Harbour kiosk");
        browser.Find("dialog", "New placement");
        browser.Choose("Channel", "Search ads");
        browser.Type("textbox", "Default Source", "wendfar");
        browser.Type("textbox", "Default Medium", "cpc");
        browser.Type("textbox", "Default Content", "@{season}");
        browser.Click("button", "Add placement");
        browser.Find("button", "Placements: Harbour kiosk");
        browser.See("needs “season”, which is missing here");
        browser.Open($"{demo.Address}/plan?view=placements");
        browser.Click("row", "Harbour kiosk");
        browser.Type("textbox", "Default Content", "{creative}");
        browser.Click("button", "Save placement");
        browser.See("is saved; new links use it");

        browser.Open($"{demo.Address}/compose");
        browser.Click("button", "Placements: choose placements");
        browser.Click("option", "Harbour kiosk");
        browser.Press(Keys.Escape);
        browser.Click("button", "Campaigns: choose a campaign");
        browser.Click("option", "School Visits");
        browser.See("utm_source=wendfar&utm_medium=cpc&utm_campaign=school_visits&utm_content={creative}");
        browser.Find("button", "Copy parameters");
    }

    [Fact]
    public async Task A_thousand_links_scroll_without_a_blank_row_and_are_saved_together()
    {
        using var http = new HttpClient { BaseAddress = new Uri(demo.Address) };
        http.DefaultRequestHeaders.Authorization = new("Bearer", "demo-editor");
        var placements = new List<string>();
        for (int i = 1; i <= 200; i++)
        {
            using var answer = await http.PostAsJsonAsync(
                "/api/v1/placements",
                new
                {
                    name = $"Kiosk {i:000}",
                    channel = "Communities",
                    defaults = new
                    {
                        source = "skeinly",
                        medium = "community",
                        content = $"kiosk_{i:000}",
                    },
                }
            );
            placements.Add(JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["id"]!.GetValue<string>());
        }

        using (var set = await http.PostAsJsonAsync("/api/v1/placement-sets", new { name = "Kiosks", placements }))
        {
            Assert.True(set.IsSuccessStatusCode);
        }

        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Paste(string.Join('\n', Enumerable.Range(1, 5).Select(i => $"http://{demo.GardenHost}/news?issue={i}")), "Pages");
        browser.Click("button", "Placements: choose placements");
        browser.Click("option", "All of “Kiosks”");
        browser.Press(Keys.Escape);
        browser.Click("button", "Campaigns: choose a campaign");
        browser.Click("option", "School Visits");
        browser.See("1,000 ready · 0 stopped");

        // Every place one can scroll to shows its rows at once, each with its link.
        string blank = browser.ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            const grid = document.querySelector('[role=grid]');
            const frame = () => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
            (async () => {
              for (let top = 0; top < grid.scrollHeight; top += grid.clientHeight * 3) {
                grid.scrollTop = top;
                await frame();
                const box = grid.getBoundingClientRect();
                for (let y = box.top + 10; y < box.bottom - 10; y += 40) {
                  const row = document.elementFromPoint(box.left + 200, y)?.closest('[role=row]');
                  if (!row || !row.textContent.includes('skeinly')) return `at ${top}: ${row ? row.textContent : 'nothing'}`;
                }
              }
              return '';
            })().then(done);
            """
        );
        Assert.Equal("", blank);
        browser.Click("button", "Save 1,000");
        browser.See("1000 links saved.");
        browser.See("1,000 saved");
    }

    [Fact]
    public void A_lost_connection_loses_nothing_that_was_written()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/visit")}&say=first");
        browser.See("1 link");
        browser.Offline(true);
        browser.Type("textbox", "Variants", "second one", Keys.Enter);
        browser.See("Your input is kept; the app tries again automatically.");
        browser.Offline(false);
        browser.Until(
            () => browser.All("row").Any(r => r.Text.Contains("second_one", StringComparison.Ordinal)) ? "back" : null,
            "the second link, once the connection is back"
        );
    }
}
