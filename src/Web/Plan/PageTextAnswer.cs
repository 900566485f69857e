using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Plan;

/// <summary>A page links of a campaign lead to, with its share text.</summary>
/// <param name="Page">Host and path.</param>
/// <param name="Title">The page's title, where it is known.</param>
/// <param name="Links">Links to it that can be shared.</param>
/// <param name="Placed">Of those, the ones that are placed.</param>
/// <param name="Text">The share text; empty while none is written.</param>
/// <param name="Revision">To be sent along when it is changed.</param>
public sealed record SharePageAnswer(string Page, string? Title, int Links, int Placed, string Text, int Revision);

/// <summary>A share text to be kept or only filled.</summary>
public sealed record PageTextRequest(Guid Campaign, string? Page, string? Text, int Revision = 0);

/// <summary>The text filled for every link to the page, in the placements' order.</summary>
public sealed record FilledTexts(IReadOnlyList<FilledText> Texts);

/// <summary>A text ready to paste in one placement.</summary>
/// <param name="Characters">Its length as people count characters.</param>
/// <param name="Missing">Names in it that nothing gives a value for.</param>
/// <param name="UseForm">In what form the placement may be used.</param>
/// <param name="MayUseToday">True when today is one of its days.</param>
/// <param name="NextDay">The first day from today on which it may be used.</param>
/// <param name="Waiting">True while an owner has to approve the host; until then the link does not work.</param>
public sealed record FilledText(
    Guid LinkId,
    string Placement,
    string? Publisher,
    string? Content,
    string Text,
    int Characters,
    IReadOnlyList<string> Missing,
    string? UseForm,
    bool MayUseToday,
    DateOnly NextDay,
    bool Waiting,
    DateTimeOffset? PlacedAt,
    string? PlacedBy
);

/// <summary>Whether a planned link is placed.</summary>
public sealed record PlacedRequest(bool Placed);
