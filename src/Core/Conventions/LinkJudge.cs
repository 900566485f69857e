using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Judges the values a link was made with, under any convention, without building its URL again.</summary>
public static class LinkJudge
{
    /// <summary>Writes and judges the values.</summary>
    /// <param name="convention">The convention to judge by.</param>
    /// <param name="values">Written values by key.</param>
    /// <param name="channel">The channel of the link's placement, or null.</param>
    public static (IReadOnlyList<ComposedField> Fields, IReadOnlyList<Notice> Notices) Judge(Convention convention, IReadOnlyDictionary<string, string> values, string? channel)
    {
        var notices = new List<Notice>();
        var fields = convention.Fields.Select(f => FieldComposer.Compose(f, values.GetValueOrDefault(f.Key, ""), ValueOrigin.Address, notices)).ToList();
        foreach (string key in values.Keys.Where(k => convention.Find(k) is null))
        {
            notices.Add(Notice.Of(NoticeRules.FieldUnknown, key, $"The convention has no field “{key}” any more; leave it out of new links."));
        }

        SourceMediumFindings.Say(convention, fields, channel, notices);
        return (fields, notices);
    }
}
