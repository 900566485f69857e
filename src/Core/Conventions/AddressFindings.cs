using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What is wrong with an address itself: its host, and the state of its query.</summary>
public static class AddressFindings
{
    /// <summary>Adds the notices about an accepted destination as it was typed.</summary>
    public static void Say(Convention convention, Destination destination, LinkSettings settings, LinkFacts facts, ICollection<Notice> notices)
    {
        if (facts.WhyRefused(destination.HostAndPort) is { } refused)
        {
            notices.Add(Notice.Of(facts.ShortHosts.Contains(destination.HostAndPort) ? NoticeRules.LeadsToShortLink : NoticeRules.HostRefused, null, refused));
        }
        else if (!facts.IsOwnOrApproved(destination.HostAndPort))
        {
            notices.Add(Notice.Of(
                NoticeRules.HostNotApproved, null,
                $"{destination.HostAndPort} is neither one of your sites nor approved; its short link waits until an owner approves the host."));
        }

        if (destination.Scheme == "http" && facts.HttpsHosts.Contains(destination.HostAndPort))
        {
            notices.Add(Notice.Of(
                NoticeRules.HttpWhereHttps, null,
                $"{destination.HostAndPort} answers https; with http the visit may lose its referrer.",
                new Repair(null, "https" + destination.Shown["http".Length..], "Use https")));
        }

        SayIfPlaceholderEncoded(destination, settings, notices);
        SayAboutQuery(convention, destination, notices);
        SayIfHashCuts(convention, destination, notices);
        if (settings.Style == TagStyle.Query && destination.Fragment is { Length: > 0 } fragment
            && LinkReader.Read(destination, convention.Tags).Found.Any(f => f.AfterHash))
        {
            notices.Add(Notice.Of(
                NoticeRules.TagsHiddenInFragment, null,
                $"The address had tags after the # (#{fragment}), where this site doesn't read them; they were removed."));
        }
    }

    /// <summary>A placeholder whose marks may not stand in a URI is encoded where its shape is not in use, and nobody fills it in.</summary>
    private static void SayIfPlaceholderEncoded(Destination destination, LinkSettings settings, ICollection<Notice> notices)
    {
        string address = new UriParts(null, null, destination.Path, destination.Query, destination.Fragment).ToString();
        var encoded = Placeholders.Split(address, PlaceholderShapes.All)
            .FirstOrDefault(a => a.IsPlaceholder && a.Shape != PlaceholderShapes.AtClick && (a.Shape & settings.Live) == 0 && PercentEncoding.EncodeForSending(a.Text) != a.Text);
        if (encoded.Text is { } foreign)
        {
            notices.Add(Notice.Of(
                NoticeRules.PlaceholderForeign, null,
                $"“{foreign}” in the page's address looks like a placeholder of a shape this workspace doesn't use, so it is percent-encoded; an owner can change that under Workspace, Link writing."));
        }
    }

    /// <summary>A bare <c>#</c> inside a value sends the rest of it, and the tags after it, into the fragment.</summary>
    private static void SayIfHashCuts(Convention convention, Destination destination, ICollection<Notice> notices)
    {
        if (destination.Query is not { Length: > 0 } query || destination.Fragment is not { Length: > 0 } fragment
            || convention.Find(RawPair.Split(query)[^1].Key) is not { } last)
        {
            return;
        }

        var pieces = RawPair.Split(fragment);
        if (pieces.Count > 1 && !pieces[0].Raw.Contains('=', StringComparison.Ordinal) && pieces.Skip(1).Any(p => convention.Find(p.Key) is not null))
        {
            notices.Add(Notice.Of(
                NoticeRules.ValueCutShort, last.Key,
                $"{last.Label} was cut short by a #, and the tags after it are never read; write the # as %23."));
        }
    }

    private static void SayAboutQuery(Convention convention, Destination destination, ICollection<Notice> notices)
    {
        if (destination.Query is not { Length: > 0 } query)
        {
            return;
        }

        if (SecondQuestionMark.Mend(query, convention) is { } mended)
        {
            notices.Add(Notice.Of(
                NoticeRules.SecondQuestionMark, null,
                "The query has a second question mark, so what follows it belongs to the value before; write & instead.",
                new Repair(null, (destination with { Query = mended }).Shown, "Write &")));
        }

        if (query.Contains("&amp;", StringComparison.OrdinalIgnoreCase))
        {
            notices.Add(Notice.Of(
                NoticeRules.AmpersandEntity, null,
                "The query has &amp; where & was meant, so the keys after it are not recognised; it was probably copied from HTML.",
                new Repair(null, (destination with { Query = query.Replace("&amp;", "&", StringComparison.OrdinalIgnoreCase) }).Shown, "Write &")));
        }

        Field? before = null;
        foreach (var pair in RawPair.Split(query))
        {
            string key = pair.Key;
            if (before is not null && key.Length > 0 && !pair.Raw.Contains('=', StringComparison.Ordinal) && convention.Find(key) is null)
            {
                notices.Add(Notice.Of(
                    NoticeRules.ValueCutShort, before.Key,
                    $"“{key}” after the & has no value of its own, so {before.Label} was probably cut short; write the & as %26."));
            }

            var field = before = convention.Find(key);
            if (field is null && convention.NearestTo(key) is { } near)
            {
                notices.Add(Notice.Of(NoticeRules.KeyMisspelt, near.Key, $"“{key}” looks like a misspelt {near.Key}; remove it from the page's address."));
            }
            else if (field is not null && key != field.Key && key.Equals(field.Key, StringComparison.OrdinalIgnoreCase))
            {
                notices.Add(Notice.Of(NoticeRules.KeyMisspelt, field.Key, $"“{key}” differs from {field.Key} in case; analytics systems may treat it as another key."));
            }

            if (field is null)
            {
                continue;
            }

            if (key == field.Key && convention.MeaningOf(field) == FieldMeaning.ByKey && !key.StartsWith("utm_", StringComparison.OrdinalIgnoreCase))
            {
                notices.Add(Notice.Of(
                    NoticeRules.KeyCollides, field.Key,
                    $"The page's own address has {key}=, which the field {field.Label} writes too, so one of the two is lost; ask an owner to rename the key."));
            }

            string value = pair.Value;
            if (value.Length == 0)
            {
                notices.Add(Notice.Of(NoticeRules.EmptyValue, field.Key, $"The address has {key} without a value."));
            }
            else if (DoubleEncoding.Undo(value) is { } once)
            {
                notices.Add(Notice.Of(
                    NoticeRules.EncodedTwice, field.Key,
                    $"The value of {key} looks percent-encoded twice: “{value}”.",
                    new Repair(field.Key, once, $"Use {once}")));
            }
        }
    }
}
