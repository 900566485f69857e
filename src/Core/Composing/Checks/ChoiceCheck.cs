using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>Dependent choices: what one field's word leaves of another's list.</summary>
public static class ChoiceCheck
{
    /// <summary>The words of a field that go with the values chosen so far.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="key">The field's key.</param>
    /// <param name="valueOf">Written values by key; empty where there is none.</param>
    /// <param name="channel">The channel of the placement, or null. It offers mediums its row in the channels table accepts.</param>
    /// <returns>Written words in their list's order; null when nothing narrows the field.</returns>
    public static IReadOnlyList<string>? NarrowedTo(Convention convention, string key, Func<string, string> valueOf, string? channel)
    {
        var choices = convention.Choices.Where(c => c.Narrows == key && valueOf(c.Field) == c.Word).ToList();
        IEnumerable<string>? words =
            choices.Count > 0
                ? choices.Select(c => c.To.AsEnumerable()).Aggregate((one, other) => one.Intersect(other, StringComparer.Ordinal))
                : OfChannel(convention, key, channel);
        return words is null ? null : [.. words];
    }

    /// <summary>Every field whose list is narrowed by what is chosen.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="fields">The fields, written.</param>
    /// <param name="channel">The channel of the placement, or null.</param>
    public static IReadOnlyList<NarrowedField> Narrowed(Convention convention, IReadOnlyList<ComposedField> fields, string? channel)
    {
        var values = fields.ToDictionary(f => f.Key, f => f.Value);
        return
        [
            .. from field in fields
            let words = NarrowedTo(convention, field.Key, key => values.GetValueOrDefault(key, ""), channel)
            where words is not null
            select new NarrowedField(field.Key, words),
        ];
    }

    /// <summary>Says where two values do not go together; overriding is allowed.</summary>
    internal static IEnumerable<Notice> Run(LinkContext link)
    {
        foreach (var choice in link.Convention.Choices)
        {
            if (
                link.Fields.FirstOrDefault(f => f.Key == choice.Field)?.Value != choice.Word
                || link.Fields.FirstOrDefault(f => f.Key == choice.Narrows) is not { Value.Length: > 0 } narrowed
                || choice.To.Contains(narrowed.Value, StringComparer.Ordinal)
            )
            {
                continue;
            }

            yield return Notice.Of(
                NoticeRules.ChoiceUnusual,
                narrowed.Key,
                $"{narrowed.Label}: “{narrowed.Value}” doesn't go with “{choice.Word}”; {string.Join(" or ", choice.To)} does.",
                choice.To is [var only] ? new Repair(narrowed.Key, only, $"Use {only}") : null
            );
        }
    }

    private static List<string>? OfChannel(Convention convention, string key, string? channel)
    {
        if (
            channel is not { Length: > 0 }
            || convention.Find(key) is not { Words: { } words } field
            || SubjectOf(convention.MeaningOf(field)) is not { } subject
            || convention.Channels.Rows.FirstOrDefault(r => r.Name.Equals(channel, StringComparison.OrdinalIgnoreCase)) is not { } row
        )
        {
            return null;
        }

        var conditions = row.Conditions.Where(c => c.Subject == subject && c.Test != ChannelTest.Empty).ToList();
        if (conditions.Count == 0)
        {
            return null;
        }

        var fitting = words.Words.Where(w => !w.Retired && conditions.All(c => c.Accepts(w.Written))).Select(w => w.Written).ToList();
        return fitting.Count == 0 ? null : fitting;
    }

    private static ChannelSubject? SubjectOf(FieldMeaning meaning) =>
        meaning switch
        {
            FieldMeaning.Source => ChannelSubject.Source,
            FieldMeaning.Medium => ChannelSubject.Medium,
            FieldMeaning.Campaign => ChannelSubject.Campaign,
            _ => null,
        };
}

/// <summary>The words that go with what is chosen, in their list's order; others may be taken all the same.</summary>
public sealed record NarrowedField(string Key, IReadOnlyList<string> Words);
