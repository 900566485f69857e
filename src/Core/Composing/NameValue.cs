using System.Text;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>The value of a composed field: a name put together from parts by its pattern, and taken apart again.</summary>
public static class NameValue
{
    /// <summary>Writes a composed field: what was given in its place, or the name its pattern makes.</summary>
    /// <param name="convention">The convention.</param>
    /// <param name="field">The composed field.</param>
    /// <param name="given">What was given in its place.</param>
    /// <param name="fields">The fields that are not composed, written.</param>
    /// <param name="campaign">The campaign, or null.</param>
    /// <param name="channel">The channel to name, or null.</param>
    /// <param name="today">Today in the workspace's zone, or null.</param>
    /// <param name="notices">Receives the notices.</param>
    internal static ComposedField Write(
        Convention convention,
        Field field,
        GivenValue given,
        IReadOnlyList<ComposedField> fields,
        CampaignChoice? campaign,
        string? channel,
        DateOnly? today,
        ICollection<Notice> notices
    )
    {
        if (given.Text.Length > 0)
        {
            return FieldValue.Write(field, given, notices);
        }

        var pattern = field.Pattern!;
        var (name, missing) = Compose(pattern, field.Rules, PartsOf(pattern, convention, fields, campaign, channel, today));
        if (given.From == ValueOrigin.Address)
        {
            return ComposedField.Empty(field);
        }

        foreach (int place in missing)
        {
            string part = Called(pattern.Parts[place], convention);
            notices.Add(
                Notice.Of(
                    NoticeRules.PartMissing,
                    field.Key,
                    $"{field.Label} can't be composed without {part}; choose it, or type the whole {field.Label}."
                )
            );
        }

        if (name.Length == 0)
        {
            return ComposedField.Empty(field);
        }

        var composed = FieldValue.Write(field, new GivenValue(name, ValueOrigin.Composed), notices);
        return composed with
        {
            Steps =
            [
                new ValueStep(
                    ValueStepKind.Composed,
                    "composed from " + string.Join(", ", pattern.Parts.Select(p => Called(p, convention))),
                    "",
                    name
                ),
                .. composed.Steps,
            ],
        };
    }

    /// <summary>The values of a pattern's parts, in its order; empty for a missing one.</summary>
    internal static IReadOnlyList<string> PartsOf(
        NamePattern pattern,
        Convention convention,
        IReadOnlyList<ComposedField> fields,
        CampaignChoice? campaign,
        string? channel,
        DateOnly? today
    ) => [.. pattern.Parts.Select(p => PartOf(p, convention, fields, campaign, channel, today))];

    /// <summary>What a part is called in a sentence.</summary>
    internal static string Called(NamePart part, Convention convention) =>
        part.Kind switch
        {
            NamePartKind.Field => convention.Find(part.Of)?.Label ?? part.Of,
            NamePartKind.Date => "the date",
            NamePartKind.Literal => $"“{part.Of}”",
            NamePartKind.Campaign => "the campaign",
            NamePartKind.Attribute => part.Of,
            _ => "the channel",
        };

    /// <summary>
    /// The written form of a part: as its field writes values, with what stands for a space swapped where it is the
    /// pattern's separator.
    /// </summary>
    /// <param name="value">The part's value.</param>
    /// <param name="rules">How the composed field writes values.</param>
    /// <param name="pattern">The pattern.</param>
    /// <returns>The part as it stands in names; empty when nothing of it can.</returns>
    public static string WritePart(string value, ValueRules rules, NamePattern pattern)
    {
        var inside = rules with
        {
            Space = pattern.Inside == '-' ? SpaceRule.Hyphen : SpaceRule.Underscore,
            LongestValue = int.MaxValue,
            Live = LiveIn(rules, pattern),
        };

        // Rewriting in plain letters can add a separator or a mark, so it is done until nothing changes.
        string written = value;
        string before;
        do
        {
            before = written;
            written = ValueNormaliser.Normalise(Plain(written, inside.Live, pattern.Separator), inside).Written;
        } while (written != before);
        return written;
    }

    /// <summary>Puts a name together.</summary>
    /// <param name="pattern">The pattern.</param>
    /// <param name="rules">How the composed field writes values.</param>
    /// <param name="values">The parts' values in the pattern's order; empty for a missing one.</param>
    /// <returns>The name, empty when a required part is missing, and the places of those.</returns>
    public static (string Name, IReadOnlyList<int> Missing) Compose(NamePattern pattern, ValueRules rules, IReadOnlyList<string> values)
    {
        var name = new StringBuilder();
        List<int>? missing = null;
        for (int i = 0; i < pattern.Parts.Count; i++)
        {
            string part = WritePart(values[i], rules, pattern);
            if (part.Length == 0)
            {
                if (pattern.Parts[i].Filler is not { } filler)
                {
                    (missing ??= []).Add(i);
                    continue;
                }

                part = WritePart(filler, rules, pattern);
            }

            name.Append(i == 0 ? "" : pattern.Separator).Append(part);
        }

        return missing is null ? (name.ToString(), []) : ("", missing);
    }

    /// <summary>Takes a name apart.</summary>
    /// <param name="pattern">The pattern.</param>
    /// <param name="rules">How the composed field writes values.</param>
    /// <param name="name">A written name.</param>
    /// <returns>The parts' written forms in the pattern's order, fillers as they stand; null when the name does not fit.</returns>
    public static IReadOnlyList<string>? TakeApart(NamePattern pattern, ValueRules rules, string name)
    {
        var parts = Split(name, LiveIn(rules, pattern), pattern.Separator);
        if (parts.Count != pattern.Parts.Count)
        {
            return null;
        }

        for (int i = 0; i < parts.Count; i++)
        {
            if (!Fits(pattern, rules, pattern.Parts[i], parts[i]))
            {
                return null;
            }
        }

        return parts;
    }

    private static bool Fits(NamePattern pattern, ValueRules rules, NamePart part, string written)
    {
        if (written.Length == 0)
        {
            return false;
        }

        if (part.Filler is { } filler && written == WritePart(filler, rules, pattern))
        {
            return true;
        }

        return part.Kind switch
        {
            NamePartKind.Date => DateText.Read(written, part.Form) is not null,
            NamePartKind.Literal => written == WritePart(part.Of, rules, pattern),
            _ => written == WritePart(written, rules, pattern),
        };
    }

    /// <summary>A placeholder between double underscores can't be told from separators, so there it is plain text.</summary>
    private static PlaceholderShapes LiveIn(ValueRules rules, NamePattern pattern) =>
        pattern.Separator == '_' ? rules.Live & ~PlaceholderShapes.Underscores : rules.Live;

    /// <summary>
    /// The text with a space for every separator outside placeholders, and without lone marks of live placeholders: two
    /// of them in neighbouring parts would make one over the join.
    /// </summary>
    private static string Plain(string text, PlaceholderShapes live, char separator) =>
        string.Concat(
            Placeholders
                .Split(text, live)
                .Select(a =>
                    a.IsPlaceholder ? a.Text : string.Concat(a.Text.Select(c => c == separator ? ' ' : c).Where(c => !IsMark(c, live)))
                )
        );

    private static bool IsMark(char c, PlaceholderShapes live) =>
        c switch
        {
            '{' or '}' => (live & (PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces | PlaceholderShapes.MergeTags)) != 0,
            '[' or ']' => (live & (PlaceholderShapes.Brackets | PlaceholderShapes.MergeTags)) != 0,
            '%' => (live & (PlaceholderShapes.Percents | PlaceholderShapes.MergeTags)) != 0,
            '$' => (live & (PlaceholderShapes.Dollars | PlaceholderShapes.MergeTags)) != 0,
            '*' or '|' or '<' or '>' => (live & PlaceholderShapes.MergeTags) != 0,
            _ => false,
        };

    private static List<string> Split(string name, PlaceholderShapes live, char separator)
    {
        var parts = new List<string>();
        var part = new StringBuilder();
        foreach (var atom in Placeholders.Split(name, live))
        {
            if (atom.IsPlaceholder)
            {
                part.Append(atom.Text);
                continue;
            }

            string[] pieces = atom.Text.Split(separator);
            part.Append(pieces[0]);
            foreach (string piece in pieces.Skip(1))
            {
                parts.Add(part.ToString());
                part.Clear().Append(piece);
            }
        }

        parts.Add(part.ToString());
        return parts;
    }

    private static string PartOf(
        NamePart part,
        Convention convention,
        IReadOnlyList<ComposedField> fields,
        CampaignChoice? campaign,
        string? channel,
        DateOnly? today
    ) =>
        part.Kind switch
        {
            NamePartKind.Field => convention.PlaceOf(part.Of) is var at and >= 0 ? fields[at].Value : "",
            NamePartKind.Date => (campaign?.Starts ?? today) is { } date ? DateText.Write(date, part.Form) : "",
            NamePartKind.Literal => part.Of,
            NamePartKind.Campaign => campaign?.Name ?? "",
            NamePartKind.Attribute => campaign?.Attributes?.GetValueOrDefault(part.Of) ?? "",
            _ => channel ?? "",
        };
}
