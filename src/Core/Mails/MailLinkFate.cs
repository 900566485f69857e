using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Mails;

/// <summary>What happens to a link of a mail.</summary>
public enum MailFate
{
    /// <summary>It has no tags and gets them.</summary>
    Tag,

    /// <summary>Its tags are faulty and are written anew.</summary>
    Mend,

    /// <summary>It is correct already and stays.</summary>
    Right,

    /// <summary>It is none of ours to change, and stays.</summary>
    Leave,
}

/// <summary>Decides which links of a mail are tagged.</summary>
/// <param name="Fate">What happens.</param>
/// <param name="Why">The reason, in a few words; null for a link that is simply tagged.</param>
public sealed record MailLinkFate(MailFate Fate, string? Why = null)
{
    private static readonly string[] LeavingWords =
    [
        "unsubscribe",
        "opt-out",
        "opt out",
        "optout",
        "email preferences",
        "mail preferences",
        "manage preferences",
        "abmelden",
    ];

    /// <summary>Whether the words of a link, or its address, look as if following it ended somebody's subscription.</summary>
    public static bool Unsubscribes(string text) => LeavingWords.Any(w => text.Contains(w, StringComparison.OrdinalIgnoreCase));

    /// <summary>The fate of a link.</summary>
    /// <param name="link">The link.</param>
    /// <param name="convention">The convention that holds.</param>
    /// <param name="facts">Hosts of the workspace's sites, and those approved.</param>
    public static MailLinkFate Of(MailLink link, Convention convention, LinkFacts facts)
    {
        string href = link.Href.Trim();
        if (href.Length == 0)
        {
            return Leave("no address");
        }

        if (href[0] == '#')
        {
            return Leave("leads to a position in this mail");
        }

        if (SchemeOf(href) is { } scheme and not "http" and not "https")
        {
            return Leave(
                scheme switch
                {
                    "mailto" => "writes a mail",
                    "tel" or "sms" => "calls or texts",
                    _ => $"{scheme}: isn't a web page",
                }
            );
        }

        if (IsPlaceholderAlone(href))
        {
            return Leave("the mail tool fills it in");
        }

        // In headings of buttons, in words around it, or in its address: whoever leaves must not be counted as a visit.
        if (Unsubscribes(link.Text) || Unsubscribes(href))
        {
            return Leave("lets people unsubscribe");
        }

        var reading = DestinationReader.Read(href);
        if (reading.Destination is not { } destination)
        {
            return Leave("not a complete web address");
        }

        if (facts.ShortHosts.Contains(destination.HostAndPort))
        {
            return Leave("is one of your short links");
        }

        if (!facts.IsOwnOrApproved(destination.HostAndPort))
        {
            return Leave("leads to another site");
        }

        var inspected = LinkInspector.Inspect(convention, href, facts);
        if (inspected.Notices.Any(n => n.Rule == NoticeRules.NoTags.Name))
        {
            return new MailLinkFate(MailFate.Tag);
        }

        bool isRight = inspected.Mended?.Tagged?.Url == href && inspected.Notices.All(n => n.Severity == Severity.Info);
        return isRight
            ? new MailLinkFate(MailFate.Right, "already correct")
            : new MailLinkFate(MailFate.Mend, inspected.Notices is [var first, ..] ? first.Message : "differs from the convention");
    }

    private static MailLinkFate Leave(string why) => new(MailFate.Leave, why);

    /// <summary>The scheme in small letters (RFC 3986, 3.1); null for an address without one.</summary>
    private static string? SchemeOf(string href)
    {
        int colon = href.IndexOf(':', StringComparison.Ordinal);
        return
            colon > 0
            && char.IsAsciiLetter(href[0])
            && href.AsSpan(0, colon).ToString().All(c => char.IsAsciiLetterOrDigit(c) || c is '+' or '-' or '.')
            ? href[..colon].ToLowerInvariant()
            : null;
    }

    private static bool IsPlaceholderAlone(string href) =>
        (href.StartsWith("{{", StringComparison.Ordinal) && href.EndsWith("}}", StringComparison.Ordinal))
        || (href.StartsWith('{') && href.EndsWith('}'))
        || (href.StartsWith('[') && href.EndsWith(']'))
        || (href.StartsWith("%%", StringComparison.Ordinal) && href.EndsWith("%%", StringComparison.Ordinal))
        || (href.StartsWith("*|", StringComparison.Ordinal) && href.EndsWith("|*", StringComparison.Ordinal))
        || (href.StartsWith("<%", StringComparison.Ordinal) && href.EndsWith("%>", StringComparison.Ordinal))
        || (href.StartsWith("@{", StringComparison.Ordinal) && href.EndsWith('}'));
}
