using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>
/// The workspace's campaigns as words of the campaign field: a campaign's written value is known, its name is an alias of that
/// value, and what is near one is probably a slip (the distance of <see cref="WordList"/>). In a composed name it is the
/// campaign's own part that is looked up.
/// </summary>
public sealed class CampaignWords
{
    private readonly Field _field;
    private readonly WordList _words;
    private readonly int _part;
    private readonly Dictionary<string, CampaignChoice> _byWritten;

    private CampaignWords(Field field, int part, WordList words, Dictionary<string, CampaignChoice> byWritten) =>
        (_field, _part, _words, _byWritten) = (field, part, words, byWritten);

    /// <summary>The words of a convention's campaign field; null where it has none, or one without a part for the campaign.</summary>
    public static CampaignWords? Of(Convention convention, IEnumerable<CampaignChoice> campaigns)
    {
        int at = convention.IndexOf(FieldMeaning.Campaign);
        if (at < 0 || convention.Fields[at] is not { } field)
        {
            return null;
        }

        int part = field.Pattern?.Parts.ToList().FindIndex(p => p.Kind == NamePartKind.Campaign) ?? -1;
        if (field.Kind != FieldKind.Text && part < 0)
        {
            return null;
        }

        var byWritten = new Dictionary<string, CampaignChoice>(StringComparer.Ordinal);
        foreach (var campaign in campaigns)
        {
            string written =
                part >= 0
                    ? NameValue.WritePart(campaign.Name, field.Rules, field.Pattern!)
                    : ValueNormaliser.Normalise(campaign.Value, field.Rules).Written;
            if (written.Length > 0 && ValueNormaliser.Normalise(written, field.Rules).Written == written)
            {
                byWritten.TryAdd(written, campaign);
            }
        }

        return new CampaignWords(
            field,
            part,
            new WordList([.. byWritten.Select(c => new Word(c.Key, c.Value.Name, [c.Value.Name, c.Value.Value]))], field.Rules),
            byWritten
        );
    }

    /// <summary>The campaign a link's value belongs to; null where it is none of the workspace's.</summary>
    public CampaignChoice? CampaignOf(IReadOnlyList<ComposedField> fields) =>
        fields.FirstOrDefault(f => f.Key == _field.Key) is { Value.Length: > 0 } field && PartOf(field.Value) is { } written
            ? _byWritten.GetValueOrDefault(written)
            : null;

    /// <summary>The value a campaign's name stands for; the same text where it is no campaign's name.</summary>
    internal string Resolve(Field field, string given, ICollection<Notice> notices)
    {
        if (
            _part >= 0
            || field.Key != _field.Key
            || given.Length == 0
            || field.Words?.Match(given).Kind is WordMatchKind.Known or WordMatchKind.Alias
            || _words.Match(given) is not { Kind: WordMatchKind.Alias, Word: { } word }
        )
        {
            return given;
        }

        notices.Add(
            Notice.Of(
                NoticeRules.AliasUsed,
                field.Key,
                $"{field.Label}: “{given}” is the campaign “{word.Label}”, whose value “{word.Written}” was used."
            )
        );
        return word.Written;
    }

    /// <summary>Says where a value was typed that is near a known campaign's.</summary>
    internal static IEnumerable<Notice> Check(LinkContext link) => link.Facts?.Campaigns?.Near(link.Fields) is { } near ? [near] : [];

    private Notice? Near(IReadOnlyList<ComposedField> fields)
    {
        if (
            fields.FirstOrDefault(f => f.Key == _field.Key)
                is not { From: ValueOrigin.Typed or ValueOrigin.Address, Value.Length: > 0 } field
            || _field.Words?.Knows(field.Value) == true
            || PartOf(field.Value) is not { } written
            || _words.Match(written) is not { Kind: WordMatchKind.Unknown, Word: { } near }
        )
        {
            return null;
        }

        // The same part may stand in the name more than once; it is the campaign's own that is mended.
        string mended = near.Written;
        if (_part >= 0)
        {
            var parts = NameValue.TakeApart(_field.Pattern!, _field.Rules, field.Value)!.ToList();
            parts[_part] = near.Written;
            mended = string.Join(_field.Pattern!.Separator, parts);
        }

        return Notice.Of(
            NoticeRules.CampaignNear,
            field.Key,
            $"{field.Label}: “{written}” isn't a campaign; did you mean “{near.Written}” ({near.Label})?",
            new Repair(field.Key, mended, $"Use {mended}")
        );
    }

    private string? PartOf(string value) =>
        _part < 0 ? value
        : NameValue.TakeApart(_field.Pattern!, _field.Rules, value) is { } parts && _part < parts.Count ? parts[_part]
        : null;
}
