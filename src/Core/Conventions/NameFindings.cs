using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>Puts a composed field together, or judges a value that somebody wrote in its place.</summary>
internal static class NameFindings
{
    public static ComposedField Compose(
        Convention convention, Field field, (string Given, ValueOrigin From) given, IReadOnlyList<ComposedField> fields,
        CampaignChoice? campaign, string? channel, DateOnly? today, ICollection<Notice> notices)
    {
        var pattern = field.Pattern!;
        var values = pattern.Parts.Select(p => ValueOf(p, convention, fields, campaign, channel, today)).ToList();
        var (name, missing) = NameComposer.Compose(pattern, field.Rules, values);
        if (given.Given.Length > 0)
        {
            var written = FieldComposer.Compose(field, given.Given, given.From, notices);
            Judge(convention, field, written.Value, values, name, campaign, notices);
            return written;
        }

        if (given.From == ValueOrigin.Address)
        {
            return new ComposedField(field.Key, field.Label, "", ValueOrigin.None, []);
        }

        foreach (int place in missing)
        {
            string part = Called(pattern.Parts[place], convention);
            notices.Add(Notice.Of(NoticeRules.PartMissing, field.Key, $"{field.Label} can't be composed without {part}; choose it, or type the whole {field.Label}."));
        }

        if (name.Length == 0)
        {
            return new ComposedField(field.Key, field.Label, "", ValueOrigin.None, []);
        }

        var composed = FieldComposer.Compose(field, name, ValueOrigin.Composed, notices);
        return composed with { Steps = [new ValueStep(ValueStepKind.Composed, "composed from " + string.Join(", ", pattern.Parts.Select(p => Called(p, convention))), "", name), .. composed.Steps] };
    }

    /// <summary>What a part is called in a sentence.</summary>
    public static string Called(NamePart part, Convention convention) => part.Kind switch
    {
        NamePartKind.Field => convention.Find(part.Of)?.Label ?? part.Of,
        NamePartKind.Date => "the date",
        NamePartKind.Literal => $"“{part.Of}”",
        NamePartKind.Campaign => "the campaign",
        NamePartKind.Attribute => part.Of,
        _ => "the channel",
    };

    private static string ValueOf(NamePart part, Convention convention, IReadOnlyList<ComposedField> fields, CampaignChoice? campaign, string? channel, DateOnly? today)
    {
        switch (part.Kind)
        {
            case NamePartKind.Field:
                for (int i = 0; i < fields.Count; i++)
                {
                    if (convention.Fields[i].Key == part.Of)
                    {
                        return fields[i].Value;
                    }
                }

                return "";
            case NamePartKind.Date:
                return (campaign?.Starts ?? today) is { } date ? DateText.Write(date, part.Form) : "";
            case NamePartKind.Literal:
                return part.Of;
            case NamePartKind.Campaign:
                return campaign?.Name ?? "";
            case NamePartKind.Attribute:
                return campaign?.Attributes?.GetValueOrDefault(part.Of) ?? "";
            default:
                return channel ?? "";
        }
    }

    private static void Judge(
        Convention convention, Field field, string written, List<string> values, string name, CampaignChoice? campaign, ICollection<Notice> notices)
    {
        var pattern = field.Pattern!;
        var repair = name.Length > 0 && name != written ? new Repair(field.Key, name, $"Use {name}") : null;
        if (NameComposer.TakeApart(pattern, field.Rules, written) is not { } parts)
        {
            string shape = string.Join(pattern.Separator, pattern.Parts.Select(p => Example(p, convention)));
            notices.Add(Notice.Of(NoticeRules.NameDoesNotFit, field.Key, $"{field.Label}: “{written}” doesn't match the pattern {shape}; clear it to have it composed.", repair));
            return;
        }

        for (int i = 0; i < parts.Count; i++)
        {
            var part = pattern.Parts[i];
            if (part.Kind == NamePartKind.Date)
            {
                DateFindings.Say(field, parts[i], part.Form, campaign, notices);
                continue;
            }

            string expected = NameComposer.WritePart(values[i], field.Rules, pattern);
            bool filler = part.Filler is { } f && parts[i] == NameComposer.WritePart(f, field.Rules, pattern);
            if (expected.Length > 0 && expected != parts[i])
            {
                notices.Add(Notice.Of(
                    NoticeRules.NameDoesNotFit, field.Key,
                    $"{field.Label} says “{parts[i]}” where {Called(part, convention)} is “{expected}”; one of the two is wrong.", repair));
            }
            else if (expected.Length == 0 && !filler && part.Kind == NamePartKind.Field
                && convention.Find(part.Of) is { ClosedList: true, Words: { } words } && !words.HasLettersOf(parts[i]))
            {
                notices.Add(Notice.Of(
                    NoticeRules.NameDoesNotFit, field.Key, $"{field.Label}: “{parts[i]}” is not in the word list of {Called(part, convention)}.", repair));
            }
        }
    }

    private static string Example(NamePart part, Convention convention) => part.Kind switch
    {
        NamePartKind.Date => DateText.Write(new DateOnly(2026, 3, 1), part.Form),
        NamePartKind.Literal => part.Of,
        _ => Called(part, convention).Replace("the ", "", StringComparison.Ordinal).ToLowerInvariant(),
    };
}
