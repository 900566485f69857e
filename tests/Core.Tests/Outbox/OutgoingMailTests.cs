using FsCheck.Xunit;
using PreciseBeacon.Core.Outbox;

namespace PreciseBeacon.CoreTests.Outbox;

/// <summary>What mails say, and when one is tried again.</summary>
public sealed class OutgoingMailTests
{
    private static readonly DateTimeOffset At = new(2026, 12, 2, 9, 5, 0, TimeSpan.Zero);

    [Theory]
    [InlineData("Wren\r\nBcc: all@marrowmere.example")]
    [InlineData("Wren\nBcc: all@marrowmere.example")]
    [InlineData("Wren\u0085Bcc: all@marrowmere.example")]
    [InlineData("Wren\u2028Bcc: all@marrowmere.example")]
    [InlineData("Wren\u0000Bcc: all@marrowmere.example")]
    public void A_name_with_a_line_break_stays_on_one_line(string name)
    {
        var mail = AccountMails.Invitation(name, "Marrowmere", "editor", "https://beacon.example/join#x", At);
        Assert.DoesNotContain(mail.Subject, c => char.IsControl(c) || c is '\u2028' or '\u2029');
        Assert.StartsWith("Wren", mail.Subject, StringComparison.Ordinal);
    }

    [Property]
    public bool A_subject_is_one_line_and_not_too_long(string? words)
    {
        string subject = OutgoingMail.Create("test", words ?? "", [], "").Subject;
        return subject.Length <= OutgoingMail.LongestSubject && !subject.Any(char.IsControl);
    }

    [Fact]
    public void Names_are_no_markup()
    {
        var mail = AccountMails.Invitation("<img src=x onerror=alert(1)>", "A & B", "editor", "https://beacon.example/join#x\"y", At);
        string html = mail.Html();
        Assert.DoesNotContain("<img", html, StringComparison.Ordinal);
        Assert.Contains("A &amp; B", html, StringComparison.Ordinal);
        Assert.Contains("href=\"https://beacon.example/join#x&quot;y\"", html, StringComparison.Ordinal);
    }

    [Fact]
    public void Text_says_what_the_html_says()
    {
        var mail = AccountMails.Forgotten("Marrowmere", "https://beacon.example/join#x", At);
        Assert.Equal(
            """
            Somebody asked for a new password for your account in Marrowmere.

            The link works once, until 2 December 2026, 09:05 UTC. Your old password works until you choose a new one.

            Choose a new password:
            https://beacon.example/join#x

            -- 
            Somebody typed your address on the sign-in page. If that was not you, do nothing.

            """.ReplaceLineEndings("\n"),
            mail.Text()
        );
        foreach (string paragraph in mail.Paragraphs)
        {
            Assert.Contains(paragraph, mail.Html(), StringComparison.Ordinal);
        }
    }

    [Theory]
    [InlineData(1, 1)]
    [InlineData(2, 2)]
    [InlineData(3, 4)]
    [InlineData(4, 8)]
    [InlineData(5, 16)]
    [InlineData(6, 30)]
    [InlineData(7, 30)]
    [InlineData(500, 30)]
    public void Pauses_grow_to_half_an_hour(int tries, int minutes) =>
        Assert.Equal(At.AddMinutes(minutes), DeliverySchedule.Next(tries, At, At));

    [Fact]
    public void After_four_days_a_mail_is_given_up()
    {
        Assert.NotNull(DeliverySchedule.Next(9, At, At.AddDays(4).AddMinutes(-30)));
        Assert.Null(DeliverySchedule.Next(9, At, At.AddDays(4).AddMinutes(-29)));
    }

    [Theory]
    [InlineData(421, false)]
    [InlineData(450, false)]
    [InlineData(550, true)]
    [InlineData(554, true)]
    public void Only_answers_of_five_hundred_are_final(int code, bool final) => Assert.Equal(final, DeliverySchedule.IsFinal(code));
}
