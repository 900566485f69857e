using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>A second short domain from being added to a click on it, and a host that is never allowed.</summary>
public sealed class WorkspaceTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public async Task A_short_domain_is_added_checked_and_used_with_a_slug_that_is_offered()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        string host = demo.ShortHost.Replace("mmr.", "print.", StringComparison.Ordinal);
        browser.Open($"{demo.Address}/workspace?part=domains");
        browser.Type("textbox", "New short domain", $"http://{host}");
        browser.Click("button", "Add and check");
        browser.See($"{host} works: leads here, checked");

        browser.Open(
            $"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/orchid-week")}&placement={await demo.IdOfAsync("placements", "Gate poster")}&campaign={await demo.IdOfAsync("campaigns", "Orchid Week")}&say=second%20domain"
        );
        browser.Click("row", "Gate poster");
        browser.Choose("Short domain for all links here", host);
        browser.Type("textbox", "Slug", "where");
        browser.See("is reserved on every short domain");
        browser.Click("button", "orchid-week-");
        browser.Click("button", "Save 1");
        string shortUrl = browser.Until(
            () => browser.Text().Split('\n').FirstOrDefault(l => l.StartsWith($"http://{host}/orchid-week-", StringComparison.Ordinal)),
            "the short link on the second domain"
        );
        browser.Open(shortUrl);
        browser.Find("heading", "Orchid Week");
        Assert.Contains("utm_content=second_domain", browser.Url, StringComparison.Ordinal);
        Assert.Empty(browser.Complaints);
    }

    /// <summary>The site added, its tag copied into its pages, a page of it counted as a conversion, and all of it seen to arrive.</summary>
    [Fact]
    public async Task A_site_of_ones_own_is_added_tagged_measured_and_converts()
    {
        await using var site = await OwnSite.StartAsync();
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/workspace?part=sites");
        browser.Type("textbox", "Host of a new site", $"http://{site.Host}");
        browser.Click("button", "Add site");
        site.Head = browser.Until(
            () =>
                browser.Script<string?>(
                    """
                    const card = document.querySelector(`section[aria-label="${arguments[0]}"]`), keep = card?.querySelector('input[type=checkbox]');
                    if (keep && !keep.checked) keep.click();
                    return [...(card?.querySelectorAll('pre') ?? [])].map((p) => p.textContent).find((t) => t.includes('integrity='));
                    """,
                    site.Host
                ),
            "the tag"
        );
        string here = browser.Tab;
        browser.NewTab($"http://{site.Host}/welcome");
        browser.Find("heading", "Fern House");
        browser.GoToTab(here);
        browser.See("on /welcome");

        // The next page says an order, and something that is no JSON, which harms nobody.
        browser.NewTab($"http://{site.Host}/bought");
        browser.Find("heading", "Fern House");
        browser.GoToTab(here);
        browser.See("on /bought");

        browser.Open($"{demo.Address}/workspace?part=conversions");
        browser.Click("button", "New conversion");
        browser.Type("textbox", "Name", "welcomed");
        browser.Type("textbox", "Page", $"{site.Host}/welcome");
        browser.Type("textbox", "Value of each, in EUR", "4");
        browser.Until(
            () =>
            {
                browser.Click("button", "Try on the last 30 days");
                return browser.Text().Contains("It happened once in 1 visit", StringComparison.Ordinal) ? "once" : null;
            },
            "the trial"
        );
        browser.Click("button", "Save");
        browser.See("€4.00");
        browser.Open($"{demo.Address}/arrivals?rows=site&stations=visits,conversions,revenue&columns=pageViews");
        browser.Until(
            () =>
                browser
                    .All("row")
                    .FirstOrDefault(r =>
                        r.Text.Contains(site.Host, StringComparison.Ordinal) && r.Text.Contains("€16.50", StringComparison.Ordinal)
                    ),
            "the order and the page, 12.50 and 4.00"
        );
        Assert.Empty(browser.Complaints);

        // Left as it was found.
        browser.Open($"{demo.Address}/workspace?part=conversions");
        browser.Click("button", "Remove welcomed");
        browser.Click("button", "Remove it and its conversions");
        browser.See("0 defined");
    }

    /// <summary>A page asks where its visitor came from: it gets the field that was picked, read from its own address, and nothing else.</summary>
    [Fact]
    public async Task A_page_learns_where_its_visitor_came_from()
    {
        await using var site = await OwnSite.StartAsync();
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/workspace?part=sites");
        browser.Type("textbox", "Host of a new site", $"http://{site.Host}");
        browser.Click("button", "Add site");
        site.Head = browser.Until(
            () =>
                browser.Script<string?>(
                    "const card = document.querySelector(`section[aria-label=\"${arguments[0]}\"]`); return [...(card?.querySelectorAll('pre') ?? [])].map((p) => p.textContent).find((t) => t.includes('beacon.js'));",
                    site.Host
                ),
            "the tag"
        );
        browser.Script<object?>(
            "[...document.querySelectorAll(`section[aria-label=\"${arguments[0]}\"] button`)].find((b) => b.textContent === 'Settings').click()",
            site.Host
        );
        browser.Click("checkbox", "Source");
        browser.Click("button", "Save");
        browser.See("Saved");

        browser.NewTab($"http://{site.Host}/welcome?utm_source=skeinly&utm_campaign=bulb_sale#utm_source=other");
        browser.Find("heading", "Fern House");
        Assert.Equal("""{"utm_source":"skeinly"}""", Source());

        // The page goes on without loading anew; a page loaded anew knows nothing, since no id is kept.
        browser.Script<object?>("history.pushState({}, '', '/more')");
        Assert.Equal("""{"utm_source":"skeinly"}""", Source());
        browser.Open($"http://{site.Host}/later");
        browser.Find("heading", "Fern House");
        Assert.Equal("{}", Source());
        Assert.Empty(browser.Complaints);

        string Source() =>
            browser.Until(
                () =>
                    browser.ScriptAsync<string?>(
                        "const done = arguments[arguments.length - 1]; window.beacon ? window.beacon.source().then((s) => done(JSON.stringify(s))) : done(null)"
                    ),
                "what the page learns"
            );
    }

    /// <summary>An owner hands a link over; on another browser somebody joins by it, is made a viewer, forgets their password and finds back in.</summary>
    [Fact]
    public void Somebody_is_invited_joins_and_finds_back_in()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/workspace");
        browser.Type("textbox", "Mail address of a new member", "fern.alder@marrowmere.example");
        browser.Click("button", "Invite");
        browser.See("This link is on its way by mail to fern.alder@marrowmere.example");
        string link = LinkOn(browser);
        string address = new Uri(link).GetLeftPart(UriPartial.Authority);

        using var guest = new Browser();
        guest.Open(link);
        guest.See("Orla Fenwick invites you to Marrowmere Botanic Garden, as an editor.");
        guest.Type("textbox", "Your name", "Fern Alder");
        guest.Type("textbox", "Password, 12 characters or more", "seven ponds and a gate");
        guest.Click("button", "Join");
        guest.Find("heading", "Compose");
        guest.Open(link);
        guest.See("This link was used already");

        browser.Open($"{demo.Address}/workspace");
        browser.Choose("Role of Fern Alder", "viewer: sees everything");
        guest.Open($"{address}/workspace?part=sites");
        guest.Find("heading", "Sites");
        Assert.DoesNotContain(guest.All("button"), b => b.Text == "Add site");
        browser.Click("button", "New password for Fern Alder");
        browser.Until(() => LinkOn(browser) == link ? null : "another", "the link for a new password");
        using var later = new Browser();
        later.Open(LinkOn(browser));
        later.See("Choose a new password for fern.alder@marrowmere.example.");
        later.Type("textbox", "Password, 12 characters or more", "nine ponds without one");
        later.Click("button", "Set password");
        later.Find("heading", "Compose");
        guest.Open($"{address}/ledger");
        guest.See("Forgot your password?");

        browser.Click("button", "Remove Fern Alder");
        browser.Click("button", "Remove; their links stay");
        browser.Until(() => browser.Text().Contains("Fern Alder", StringComparison.Ordinal) ? null : "gone", "the member gone");
    }

    private static string LinkOn(Browser browser) =>
        browser
            .Until(() => browser.Text().Split('\n', ' ').FirstOrDefault(t => t.Contains("/join#", StringComparison.Ordinal)), "the link")
            .Trim();

    [Fact]
    public void A_host_is_never_allowed_after_what_it_stops_was_seen()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/workspace?part=hosts");
        browser.Type("textbox", "Host", "https://mossgate.example/guide");
        browser.Click("button", "Preview effect");
        browser.See("No short link leads to mossgate.example.");
        browser.Click("button", "Block mossgate.example");
        browser.See("1 on the list");
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString("https://www.mossgate.example/")}&say=x");
        browser.Click("row", "www.mossgate.example");
        browser.See("is blocked, as part of mossgate.example");
        browser.Open($"{demo.Address}/workspace?part=hosts");
        browser.Click("button", "Unblock mossgate.example");
        browser.See("0 on the list");
        Assert.Empty(browser.Complaints);
    }
}
