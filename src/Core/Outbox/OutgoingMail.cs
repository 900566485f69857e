using System.Net;
using System.Text;

namespace PreciseBeacon.Core.Outbox;

/// <summary>A mail the application sends, by what it says; how it looks as text and as HTML follows from that.</summary>
/// <param name="Kind">What it is for, as one of <see cref="MailKinds"/>.</param>
/// <param name="Subject">One line. Line breaks in it are no part of it: <see cref="Create"/> takes them out.</param>
/// <param name="Paragraphs">What it says, in order.</param>
/// <param name="Action">What the link in it is called; null for a mail without one.</param>
/// <param name="Address">Where the link leads; null for a mail without one.</param>
/// <param name="Reason">Why somebody gets it, at its end.</param>
/// <param name="StopAddress">Where such mails are ended; null for one that is not sent again.</param>
public sealed record OutgoingMail(
    string Kind,
    string Subject,
    IReadOnlyList<string> Paragraphs,
    string? Action,
    string? Address,
    string Reason,
    string? StopAddress = null
)
{
    /// <summary>The longest subject, in UTF-16 code units; names in it may be long (ours).</summary>
    public const int LongestSubject = 150;

    private const string Stop = "No more of these mails";

    /// <summary>Makes a mail. A header is one line (RFC 5322, section 2.2), so a name with a line break in it adds no other.</summary>
    public static OutgoingMail Create(
        string kind,
        string subject,
        IReadOnlyList<string> paragraphs,
        string reason,
        string? action = null,
        string? address = null
    )
    {
        string line = string.Join(' ', subject.Split(default(char[]), StringSplitOptions.RemoveEmptyEntries));
        line = string.Concat(line.Where(c => !char.IsControl(c)));
        return new(kind, line.Length > LongestSubject ? $"{line[..(LongestSubject - 1)]}…" : line, paragraphs, action, address, reason);
    }

    /// <summary>As plain text, with line feeds between the lines.</summary>
    public string Text()
    {
        var text = new StringBuilder();
        foreach (string paragraph in Paragraphs)
        {
            text.Append(paragraph).Append("\n\n");
        }

        if (Address is not null)
        {
            text.Append(Action).Append(":\n").Append(Address).Append("\n\n");
        }

        // The line before what is no part of the letter (RFC 3676, section 4.3).
        text.Append("-- \n").Append(Reason).Append('\n');
        return StopAddress is null ? text.ToString() : text.Append(Stop).Append(":\n").Append(StopAddress).Append('\n').ToString();
    }

    /// <summary>As HTML of its own, without anything that is loaded from elsewhere.</summary>
    public string Html()
    {
        var html = new StringBuilder("<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>")
            .Append(WebUtility.HtmlEncode(Subject))
            .Append(
                "</title></head><body style=\"font-family:sans-serif;font-size:16px;line-height:1.5;color:#1c2321;max-width:36em;margin:0 auto;padding:24px\">"
            );
        foreach (string paragraph in Paragraphs)
        {
            html.Append("<p>").Append(WebUtility.HtmlEncode(paragraph)).Append("</p>");
        }

        if (Address is not null)
        {
            string address = WebUtility.HtmlEncode(Address);
            html.Append("<p><a href=\"")
                .Append(address)
                .Append(
                    "\" style=\"display:inline-block;padding:10px 18px;border-radius:4px;background:#6a2c55;color:#ffffff;text-decoration:none\">"
                )
                .Append(WebUtility.HtmlEncode(Action))
                .Append("</a></p><p style=\"font-size:13px;color:#5b6461;word-break:break-all\">")
                .Append(address)
                .Append("</p>");
        }

        return html.Append("<hr style=\"border:0;border-top:1px solid #d7dcd9;margin:24px 0\"><p style=\"font-size:13px;color:#5b6461\">")
            .Append(WebUtility.HtmlEncode(Reason))
            .Append(StopAddress is null ? "" : $" <a href=\"{WebUtility.HtmlEncode(StopAddress)}\" style=\"color:#5b6461\">{Stop}</a>")
            .Append("</p></body></html>")
            .ToString();
    }
}

/// <summary>What mails are for.</summary>
public static class MailKinds
{
    /// <summary>Somebody is invited to a workspace.</summary>
    public const string Invitation = "invitation";

    /// <summary>An owner lets a member choose a new password.</summary>
    public const string Reset = "reset";

    /// <summary>Somebody forgot their password. Who they are is looked up only when it is sent.</summary>
    public const string Forgotten = "forgotten";

    /// <summary>A check of pages found something new.</summary>
    public const string PageFindings = "page-findings";

    /// <summary>Those a member asks for, and ends.</summary>
    public static readonly IReadOnlyList<string> Wanted = [PageFindings];

    /// <summary>An owner tries whether mails go out.</summary>
    public const string Test = "test";
}
