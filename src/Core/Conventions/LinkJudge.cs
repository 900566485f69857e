using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Judges the values a link was made with, under any convention, without building its URL again.</summary>
public static class LinkJudge
{
    /// <summary>Writes and judges the values.</summary>
    /// <param name="convention">The convention to judge by.</param>
    /// <param name="values">Written values by key, as the link has them.</param>
    /// <param name="channel">The channel of the link's placement, or null.</param>
    /// <param name="urlBehindShortLink">The URL that its short link opens, where what a platform puts behind it is dropped; else null.</param>
    /// <returns>The fields in the convention's order, and the notices, gravest first.</returns>
    public static (IReadOnlyList<ComposedField> Fields, IReadOnlyList<Notice> Notices) Judge(Convention convention, IReadOnlyDictionary<string, string> values, string? channel, string? urlBehindShortLink = null)
    {
        var notices = new List<Notice>();
        var given = new (string, ValueOrigin)[convention.Fields.Count];
        Array.Fill(given, ("", ValueOrigin.Address));
        foreach (var (key, value) in values)
        {
            if (convention.PlaceOf(key) is var at and >= 0)
            {
                given[at] = (value, ValueOrigin.Address);
            }
            else
            {
                notices.Add(Notice.Of(NoticeRules.FieldUnknown, key, $"The convention has no field “{key}” any more; don't use it in new links."));
            }
        }

        var fields = FieldsComposer.Compose(convention, given, null, channel, null, notices);
        // A retired word stays valid on links that exist; only new ones are refused.
        notices.RemoveAll(n => n.Rule == NoticeRules.WordRetired.Name);
        if (urlBehindShortLink is not null)
        {
            PlaceFindings.SayIfUnfilled(urlBehindShortLink, convention.Settings.Live | PlaceholderShapes.MergeTags, notices);
        }

        return (fields, ConventionComposer.Judged(convention, notices));
    }
}
