using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Compose;

/// <summary>A link that was stored.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Link">The link as worked out.</param>
/// <param name="ShortUrl">Its short link for texts; null when none was asked for.</param>
/// <param name="CodeShortUrl">What its code says: a short link of its own.</param>
/// <param name="CodeUrl">Where the code's picture is.</param>
/// <param name="Waiting">True while an owner has to approve the host; until then the short links answer 404.</param>
/// <param name="CopyUrl">What is to be placed: the short link, with parameters behind it where a platform fills them in; the long link where nobody would.</param>
public sealed record SavedLink(
    Guid Id,
    ComposeAnswer Link,
    string? ShortUrl,
    string? CodeShortUrl,
    string? CodeUrl,
    bool Waiting,
    string CopyUrl
)
{
    public static SavedLink Of(StoredLink stored) => Of(stored.Link, stored.Domain, stored.Prepared);

    private static SavedLink Of(Link link, ShortDomain? domain, PreparedLink prepared) =>
        new(
            link.Id,
            ComposeAnswer.Of(prepared),
            UrlOf(link, domain, ShortLinkUse.Text),
            UrlOf(link, domain, ShortLinkUse.Code),
            link.ShortLinks.Count == 0 ? null : $"/api/v1/links/{link.Id}/code.svg",
            link.IsWaiting,
            PlaceholdersBehind.UrlToCopy(link.Url, UrlOf(link, domain, ShortLinkUse.Text), link.Carries, prepared.Convention.Settings.Live)
        );

    private static string? UrlOf(Link link, ShortDomain? domain, ShortLinkUse use) =>
        link.ShortLinks.FirstOrDefault(s => s.Use == use) is { } found && domain is not null ? domain.UrlOf(found.Slug) : null;
}

/// <summary>What came of saving several links, in the order asked for.</summary>
public sealed record SaveManyAnswer(IReadOnlyList<SaveOutcome> Links, int Saved)
{
    public static SaveManyAnswer Of(IReadOnlyList<PreparedLink> links, IReadOnlyDictionary<int, StoredLink> saved) =>
        new(
            [
                .. links.Select(
                    (link, i) =>
                        saved.TryGetValue(i, out var stored)
                            ? new SaveOutcome(SavedLink.Of(stored), null)
                            : new SaveOutcome(null, ComposeAnswer.Of(link))
                ),
            ],
            saved.Count
        );
}

/// <summary>One of several.</summary>
/// <param name="Saved">The stored link; null when it was not ready.</param>
/// <param name="Link">Why it was not stored; null when it was, as the stored link says the same.</param>
public sealed record SaveOutcome(SavedLink? Saved, ComposeAnswer? Link);

/// <summary>How far saving is; the last line has the answer, or says why nothing was saved.</summary>
public sealed record SaveProgress(int Done, int Total, SaveManyAnswer? Answer, string? Refused);
