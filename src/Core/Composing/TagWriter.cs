using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>
/// Puts tags on a destination. Nothing of the page's own is touched: path, other pairs and fragment stay byte for
/// byte and in order; tags go after the query and before the <c>#</c>, or into the fragment where the site reads it.
/// </summary>
public static class TagWriter
{
    /// <summary>Length in octets above which some programs cut a URL off (common practice).</summary>
    public const int LongUrl = 2_000;

    /// <summary>Length in octets above which servers may refuse a URL (RFC 9110, section 4.1).</summary>
    public const int LongestUrl = 8_000;

    /// <summary>Tags a destination.</summary>
    /// <param name="destination">An accepted destination.</param>
    /// <param name="tags">All fields in the order they shall stand, those without a value included; values have no lone surrogates.</param>
    /// <param name="settings">How the workspace writes its links.</param>
    public static TaggedUrl Write(Destination destination, IReadOnlyList<Tag> tags, LinkSettings settings)
    {
        var texts = new string?[tags.Count];
        for (int i = 0; i < texts.Length; i++)
        {
            texts[i] = tags[i].Value.Length == 0 ? null : Encode(tags[i], settings);
        }

        var holder = FragmentPairs.Of(destination.Fragment);
        var query = new TagPieces(destination.Query, tags);
        var fragment = new TagPieces(holder.Pairs, tags);
        List<FoundTag> found = [.. query.Found(afterHash: false), .. fragment.Found(afterHash: true)];
        bool inQuery = settings.Style != TagStyle.Fragment;
        var placed = new bool[tags.Count];
        if (settings.Existing == ExistingTags.Replace)
        {
            query.Replace(texts, placed, place: inQuery);
            fragment.Replace(texts, placed, place: !inQuery);
        }
        else
        {
            query.MarkPresent(placed);
            fragment.MarkPresent(placed);
        }

        (inQuery ? query : fragment).Append(texts, placed);

        string? newFragment = fragment.Changed ? holder.With(fragment.Join()) : destination.Fragment;
        var parts = new UriParts(
            destination.Scheme,
            destination.HostAndPort,
            PercentEncoding.EncodeForSending(destination.Path, settings.Live),
            Send(query.Join(), settings),
            Send(newFragment, settings)
        );
        string url = parts.ToString();

        var notices = new List<Notice>();
        SayAboutFound(found, tags, settings, query.Changed || fragment.Changed, notices);
        SayAboutPlace(tags, settings, notices);
        SayAboutLength(url, notices);

        return new TaggedUrl(
            url,
            string.Join('&', texts.Where(t => t is not null)),
            () => Strip(destination, tags, query, fragment, holder, newFragment),
            found,
            notices
        );
    }

    /// <summary>Puts written fields on a destination, readable or sealed.</summary>
    /// <param name="convention">The convention that holds.</param>
    /// <param name="destination">An accepted destination.</param>
    /// <param name="fields">Its fields in order, written.</param>
    /// <param name="settings">How this link is written.</param>
    public static TaggedUrl Write(
        Convention convention,
        Destination destination,
        IReadOnlyList<ComposedField> fields,
        LinkSettings settings
    )
    {
        var tags = new List<Tag>(fields.Count + 1);
        bool seals = settings.Style == TagStyle.Sealed;
        for (int i = 0; i < fields.Count; i++)
        {
            tags.Add(convention.Fields[i].ToTag(seals ? "" : Sendable(fields[i].Value)));
        }

        if (settings.SealedKey is { } key)
        {
            // An old code goes when the link is tagged anew, in whichever style.
            tags.Add(new Tag(key, seals ? SealedCode.Of(fields.ToDictionary(f => f.Key, f => f.Value), settings) : ""));
        }

        return Write(destination, tags, settings);
    }

    /// <summary>Puts the tags a link was made with on another page: what was decided once is not judged again.</summary>
    /// <param name="convention">The convention that holds; it gives the order. Values of fields it no longer has come last.</param>
    /// <param name="page">The page.</param>
    /// <param name="values">The link's written values by key.</param>
    /// <param name="style">How the link was written.</param>
    public static TaggedUrl WriteAgain(Convention convention, Destination page, IReadOnlyDictionary<string, string> values, TagStyle style)
    {
        var settings = convention.Settings with { Style = style, Existing = ExistingTags.Replace };
        bool seals = style == TagStyle.Sealed;
        var tags = convention
            .Fields.Select(f => f.ToTag(seals ? "" : values.GetValueOrDefault(f.Key, "")))
            .Concat(
                values
                    .Where(v => convention.Fields.All(f => f.Key != v.Key))
                    .OrderBy(v => v.Key, StringComparer.Ordinal)
                    .Select(v => new Tag(v.Key, seals ? "" : v.Value, []))
            )
            .ToList();
        if (settings.SealedKey is { } key)
        {
            tags.Add(new Tag(key, seals ? SealedCode.Of(values, settings) : ""));
        }

        return Write(page, tags, settings);
    }

    /// <summary>A page's address as it is sent, without tags of ours.</summary>
    public static string WriteBare(Destination page) => Write(page, [], new LinkSettings()).Url;

    /// <summary>A value with half a character stops the link, but its URL is still shown, with the replacement character.</summary>
    private static string Sendable(string value)
    {
        foreach (char c in value)
        {
            if (char.IsSurrogate(c))
            {
                return string.Concat(value.EnumerateRunes().Select(r => r.ToString()));
            }
        }

        return value;
    }

    private static string Encode(Tag tag, LinkSettings settings) =>
        $"{PercentEncoding.EncodeValue(tag.Key)}={PercentEncoding.EncodeValue(tag.Value, settings.Live, settings.PlusForSpace)}";

    private static string? Send(string? text, LinkSettings settings) =>
        text is null ? null : PercentEncoding.EncodeForSending(text, settings.Live);

    private static void SayAboutFound(
        List<FoundTag> found,
        IReadOnlyList<Tag> tags,
        LinkSettings settings,
        bool changed,
        List<Notice> notices
    )
    {
        if (found.Count == 0)
        {
            return;
        }

        string list = string.Join(", ", found.Select(f => $"{f.WrittenKey}={f.Value}"));
        switch (settings.Existing)
        {
            case ExistingTags.Replace
                when changed && found.Any(f => tags.First(t => t.Key == f.Key).Value != f.Value || f.Key != f.WrittenKey):
                notices.Add(Notice.Of(NoticeRules.TagsReplaced, null, $"The address already had tags; they were replaced: {list}."));
                break;
            case ExistingTags.Keep:
                notices.Add(Notice.Of(NoticeRules.TagsKept, null, $"The address already had tags; they were kept: {list}."));
                break;
            case ExistingTags.Refuse:
                notices.Add(
                    Notice.Of(NoticeRules.TagsAlreadyThere, null, $"The address already has tags ({list}); paste it without them.")
                );
                break;
        }

        var repeated = found.GroupBy(f => f.Key).Where(g => g.Count() > 1).Select(g => g.Key).ToList();
        if (repeated.Count > 0)
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.DuplicateKey,
                    repeated[0],
                    $"The address had more than one {string.Join(", ", repeated)}; analytics systems use either the first or the last."
                )
            );
        }
    }

    private static void SayAboutPlace(IReadOnlyList<Tag> tags, LinkSettings settings, List<Notice> notices)
    {
        if (settings.Style == TagStyle.Fragment && tags.Any(t => t.Value.Length > 0))
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.TagsAfterHash,
                    null,
                    "The tags are after the #: scripts in the page can read them there, but servers and access logs never see them."
                )
            );
        }
    }

    private static void SayAboutLength(string url, List<Notice> notices)
    {
        if (url.Length > LongestUrl)
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.UrlTooLong,
                    null,
                    $"The URL has {url.Length:N0} bytes; servers may refuse more than 8,000: shorten the page's address or the values."
                )
            );
        }
        else if (url.Length > LongUrl)
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.UrlLong,
                    null,
                    $"The URL has {url.Length:N0} bytes; some programs cut it off after 2,000: use its short link."
                )
            );
        }
    }

    private static List<StripSegment> Strip(
        Destination destination,
        IReadOnlyList<Tag> tags,
        TagPieces query,
        TagPieces fragment,
        FragmentPairs holder,
        string? newFragment
    )
    {
        var strip = new List<StripSegment>(tags.Count + 5)
        {
            new(StripPart.Scheme, destination.Scheme + "://"),
            new(StripPart.Host, destination.Port is null ? destination.Host.Shown : $"{destination.Host.Shown}:{destination.Port}"),
        };
        if (destination.Path.Length > 0)
        {
            strip.Add(new(StripPart.Path, destination.Path));
        }

        AddPieces(strip, query.Pieces, tags, query.Join() is null ? "" : "?");
        if (newFragment is null)
        {
            return strip;
        }

        if (fragment.Pieces.All(p => p.Tag < 0))
        {
            strip.Add(new(StripPart.Carried, "#" + newFragment));
            return strip;
        }

        string lead = holder.Lead.Length == 0 || holder.Lead.EndsWith('?') ? holder.Lead : holder.Lead + "?";
        AddPieces(strip, fragment.Pieces, tags, "#" + lead);
        return strip;
    }

    private static void AddPieces(
        List<StripSegment> strip,
        IReadOnlyList<(string Text, int Tag)> pieces,
        IReadOnlyList<Tag> tags,
        string opening
    )
    {
        string before = opening;
        foreach (var (text, tag) in pieces)
        {
            if (before.Length > 1)
            {
                strip.Add(new(StripPart.Carried, before));
                before = "";
            }

            strip.Add(tag < 0 ? new(StripPart.Carried, before + text) : new(StripPart.Field, before + text, tags[tag].Key));
            before = "&";
        }
    }
}
