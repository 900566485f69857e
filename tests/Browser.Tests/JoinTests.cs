namespace PreciseBeacon.BrowserTests;

/// <summary>Somebody is invited, joins through the mail they got, and finds back in after forgetting their password.</summary>
public sealed class JoinTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    private const string Mail = "rowan@marrowmere.example";

    [Fact]
    public void An_editor_joins_through_the_inbox_and_chooses_a_new_password_by_another_mail()
    {
        using var owner = new Browser();
        demo.SignIn(owner, "Orla Fenwick");
        owner.Open($"{demo.Address}/workspace?part=people");
        owner.Type("textbox", "Mail address of a new member", Mail);
        owner.Click("button", "Invite");
        owner.See($"This link is on its way by mail to {Mail}");
        owner.Open($"{demo.Address}/workspace?part=mail");
        owner.See("Orla Fenwick invites you to");
        owner.See("sent ");

        using var rowan = new Browser();
        FollowMail(rowan, "Orla Fenwick invites you to", "Join the workspace");
        rowan.See("Orla Fenwick");
        rowan.Type("textbox", "Your name", "Rowan Aske");
        rowan.Type("textbox", "Password, 12 characters or more", "seven ferns on a wall");
        rowan.Click("button", "Join");
        rowan.Find("heading", "Compose");

        // The link was used up.
        using var other = new Browser();
        FollowMail(other, "Orla Fenwick invites you to", "Join the workspace");
        other.See("This link was used already");

        other.Open($"{demo.Address}/sign-in");
        other.Click("button", "Forgot your password?");
        other.Type("textbox", "Mail address", Mail);
        other.Click("button", "Send a link for a new password");
        other.See($"If {Mail} has an account here");
        FollowMail(other, "Choose a new password", "Choose a new password");
        other.Type("textbox", "Password, 12 characters or more", "nine other ferns on it");
        other.Click("button", "Set password");
        other.Find("heading", "Compose");

        // Whoever was signed in with the old one is not any more.
        rowan.Open($"{demo.Address}/ledger");
        rowan.Find("heading", "Precise Beacon");
        Assert.Empty(owner.Complaints);
    }

    private void FollowMail(Browser browser, string subject, string link)
    {
        browser.Until(
            () =>
            {
                browser.Open(demo.InboxAddress);
                return browser.Text().Contains(subject, StringComparison.Ordinal) ? "there" : null;
            },
            $"the mail “{subject}”"
        );
        browser.Click("link", subject);
        browser.IntoFrame("Mail");
        browser.Click("link", link);
        browser.OutOfFrame();
    }
}
