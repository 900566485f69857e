using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Mails;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Mails;

/// <summary>A mail in the list of mails.</summary>
public sealed record MailSummary(
    Guid Id,
    string Name,
    string? Subject,
    int Written,
    string CreatedBy,
    DateTimeOffset CreatedAt,
    DateTimeOffset? MadeAt
);

/// <summary>A mail with its links.</summary>
/// <param name="IsMessage">True for a whole message, false for HTML alone.</param>
/// <param name="Revision">To be sent along when something is changed.</param>
/// <param name="Ready">Links that would be written anew.</param>
/// <param name="Inbox">Where a trial can be sent and looked at; null when there is no such place.</param>
public sealed record MailAnswer(
    Guid Id,
    string Name,
    string? Subject,
    bool IsMessage,
    string? Placement,
    string? Campaign,
    MailContentBy ContentBy,
    bool Shorten,
    int Revision,
    int Ready,
    IReadOnlyList<MailLinkAnswer> Links,
    string? MadeBy,
    DateTimeOffset? MadeAt,
    string? Inbox
);

/// <summary>One link of a mail.</summary>
/// <param name="Why">Why it is left alone or mended; null for one that is simply tagged.</param>
/// <param name="Skipped">True when somebody leaves it alone.</param>
/// <param name="Content">What its content says, as it was proposed or typed.</param>
/// <param name="Url">The tagged link; null for one that stays.</param>
/// <param name="Written">The address written into the mail; null before the links were made.</param>
public sealed record MailLinkAnswer(
    int Number,
    string Href,
    string Text,
    MailPlace Place,
    MailShape Shape,
    MailFate Fate,
    string? Why,
    bool Skipped,
    string Content,
    bool Typed,
    string? Url,
    IReadOnlyList<StripSegment> Strip,
    IReadOnlyList<Notice> Notices,
    bool Ready,
    string? Written
);

/// <summary>What is chosen for a mail's links.</summary>
/// <param name="Typed">Content typed for single links, by their number; an empty text means none.</param>
/// <param name="Skipped">Numbers of links to be left alone.</param>
public sealed record MailChoices(
    string? Placement,
    string? Campaign,
    MailContentBy ContentBy,
    bool Shorten,
    Dictionary<string, string>? Typed,
    IReadOnlyList<int>? Skipped,
    int Revision
);

/// <summary>A mail that was uploaded.</summary>
public sealed record MailMade(Guid Id);

/// <summary>A trial that was sent, and where it can be seen.</summary>
public sealed record TrialSent(string Inbox);
