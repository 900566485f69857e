using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Compose;

/// <summary>A link as worked out; nothing of it is stored yet.</summary>
/// <param name="Url">The finished URL; null when the destination was refused.</param>
/// <param name="Shown">The URL as people read it.</param>
/// <param name="ParameterText">The tags alone.</param>
/// <param name="Forms">Other forms of the same link.</param>
/// <param name="Strip">The shown URL cut into segments.</param>
/// <param name="Fields">Every field, in order.</param>
/// <param name="Notices">Notices, gravest first.</param>
/// <param name="Ready">True when it may be saved.</param>
/// <param name="Narrowed">Fields whose word list is narrowed by what is chosen.</param>
/// <param name="Existing">The newest link in the Ledger with exactly this URL, or null.</param>
public sealed record ComposeAnswer(
    string? Url,
    string? Shown,
    string? ParameterText,
    LinkForms? Forms,
    IReadOnlyList<StripSegment> Strip,
    IReadOnlyList<ComposedField> Fields,
    IReadOnlyList<Notice> Notices,
    bool Ready,
    IReadOnlyList<NarrowedField> Narrowed,
    ExistingLink? Existing
)
{
    public static ComposeAnswer Of(PreparedLink prepared) =>
        Of(
            prepared.Composed,
            prepared.Request.Title,
            ChoiceCheck.Narrowed(prepared.Convention, prepared.Composed.Fields, prepared.Placement?.Channel),
            prepared.Existing
        );

    private static ComposeAnswer Of(ComposedLink link, string? title, IReadOnlyList<NarrowedField> narrowed, ExistingLink? existing) =>
        new(
            link.Tagged?.Url,
            link.Tagged?.Shown,
            link.Tagged?.ParameterText,
            link.Tagged is { } tagged ? LinkForms.Of(tagged.Url, title) : null,
            link.Tagged?.Strip ?? [],
            link.Fields,
            link.Notices,
            link.Ready,
            narrowed,
            existing
        );
}

/// <summary>Several links as worked out, in the order asked for.</summary>
public sealed record ComposeManyAnswer(IReadOnlyList<ComposeAnswer> Links);

/// <summary>Tags without a page, as one copies them into an ad platform's parameter field.</summary>
/// <param name="ParameterText">The tags without a <c>?</c>, placeholders literal.</param>
/// <param name="Encoded">The same encoded once more, for use inside another URL's parameter.</param>
/// <param name="ShortenPattern">For tools that shorten by a URL pattern: what stands before the long URL; the key is to be put in.</param>
public sealed record SnippetAnswer(
    string ParameterText,
    string Encoded,
    string ShortenPattern,
    IReadOnlyList<ComposedField> Fields,
    IReadOnlyList<Notice> Notices,
    bool Ready
);

/// <summary>Several URLs read back, in the order asked for.</summary>
public sealed record InspectManyAnswer(IReadOnlyList<InspectAnswer> Links);

/// <summary>A URL read back, judged and mended.</summary>
/// <param name="Campaign">Name of the campaign its value belongs to, or null.</param>
/// <param name="Placement">Name of the placement that gives just such values, or null.</param>
/// <param name="Typed">Values by key that campaign and placement do not give by themselves.</param>
public sealed record InspectAnswer(
    string? Destination,
    IReadOnlyList<ComposedField> Fields,
    IReadOnlyList<OtherPair> Others,
    IReadOnlyList<Notice> Notices,
    string? MendedUrl,
    IReadOnlyList<StripSegment> Strip,
    string? Campaign,
    string? Placement,
    IReadOnlyDictionary<string, string> Typed
)
{
    public static InspectAnswer Of(InspectedLink link) =>
        new(
            link.Destination,
            link.Mended?.Fields ?? [],
            [.. link.Others.Select(o => new OtherPair(o.Key, o.Value))],
            link.Notices,
            link.Mended?.Tagged?.Url,
            link.Mended?.Tagged?.Strip ?? [],
            link.Campaign?.Name,
            link.Placement?.Name,
            link.Typed
        );
}

/// <summary>A pair of the page's own.</summary>
public sealed record OtherPair(string Key, string Value);
