using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Plan;

/// <summary>Default values that follow from what is known of a new placement, so that they need not be typed (ours).</summary>
public static class PlacementDefaults
{
    /// <summary>The medium a channel is told by: the first word of the medium's list that its row accepts.</summary>
    /// <returns>The written value; null where the channel goes by something else.</returns>
    public static string? MediumOf(Convention convention, string channel)
    {
        if (
            convention.IndexOf(FieldMeaning.Medium) is not (var at and >= 0)
            || convention.Channels.Rows.FirstOrDefault(c => c.Name.Equals(channel.Trim(), StringComparison.OrdinalIgnoreCase))
                is not { } row
        )
        {
            return null;
        }

        var conditions = row.Conditions.Where(c => c.Subject == ChannelSubject.Medium && c.Test != ChannelTest.Empty).ToList();
        var words = convention.Fields[at].Words?.Words.Where(w => !w.Retired).Select(w => w.Written) ?? [];
        return conditions.Count == 0
            ? null
            : words.FirstOrDefault(w => conditions.All(c => c.Accepts(w)))
                ?? conditions
                    .Where(c => c.Test == ChannelTest.Is)
                    .SelectMany(c => c.Values)
                    .FirstOrDefault(v => conditions.All(c => c.Accepts(v)));
    }

    /// <summary>
    /// Source, medium and content of a placement that says none of them: the medium of its channel, its publisher as the source, and its
    /// name as the content; without a publisher its name is the source. What is given stays.
    /// </summary>
    /// <param name="convention">The convention its values are written by.</param>
    /// <param name="name">The placement's name.</param>
    /// <param name="channel">Its channel.</param>
    /// <param name="publisher">Who runs it, or null.</param>
    /// <param name="given">Default values it has, by key or label.</param>
    public static Dictionary<string, string> Complete(
        Convention convention,
        string name,
        string channel,
        string? publisher,
        IReadOnlyDictionary<string, string> given
    )
    {
        var values = new Dictionary<string, string>(given, StringComparer.Ordinal);
        bool published = !string.IsNullOrWhiteSpace(publisher);
        Add(FieldMeaning.Source, published ? publisher! : name);
        Add(FieldMeaning.Medium, MediumOf(convention, channel));
        Add(FieldMeaning.Content, published ? name : null);
        return values;

        void Add(FieldMeaning meaning, string? value)
        {
            if (
                convention.IndexOf(meaning) is not (var at and >= 0)
                || string.IsNullOrWhiteSpace(value)
                || values.Keys.Any(k => convention.Find(k)?.Key == convention.Fields[at].Key)
            )
            {
                return;
            }

            var field = convention.Fields[at];
            string written = field.Words?.Match(value) is { Kind: WordMatchKind.Known or WordMatchKind.Alias, Word: { } word }
                ? word.Written
                : ValueNormaliser.Normalise(value, field.Rules).Written;
            if (written.Length > 0)
            {
                values[field.Key] = written;
            }
        }
    }
}
