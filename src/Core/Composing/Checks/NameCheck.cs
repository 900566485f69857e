using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>Judges a name that somebody wrote where the convention composes one: its shape, and each of its parts.</summary>
internal static class NameCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        for (int i = 0; i < link.Fields.Count; i++)
        {
            if (
                link.Convention.Fields[i] is { Kind: FieldKind.Composed } field
                && link.Fields[i] is { From: not (ValueOrigin.Composed or ValueOrigin.None) } typed
            )
            {
                foreach (var notice in Judge(link, field, typed.Value))
                {
                    yield return notice;
                }
            }
        }
    }

    private static IEnumerable<Notice> Judge(LinkContext link, Field field, string written)
    {
        var pattern = field.Pattern!;
        var values = NameValue.PartsOf(pattern, link.Convention, link.Fields, link.Campaign, link.NameChannel, link.Today);
        string name = NameValue.Compose(pattern, field.Rules, values).Name;
        var repair = name.Length > 0 && name != written ? new Repair(field.Key, name, $"Use {name}") : null;
        if (NameValue.TakeApart(pattern, field.Rules, written) is not { } parts)
        {
            string shape = string.Join(pattern.Separator, pattern.Parts.Select(p => Example(p, link.Convention)));
            yield return Notice.Of(
                NoticeRules.NameDoesNotFit,
                field.Key,
                $"{field.Label}: “{written}” doesn't match the pattern {shape}; clear it to have it composed.",
                repair
            );
            yield break;
        }

        for (int i = 0; i < parts.Count; i++)
        {
            var part = pattern.Parts[i];
            if (part.Kind == NamePartKind.Date)
            {
                if (DateCheck.Outside(field, parts[i], part.Form, link.Campaign) is { } outside)
                {
                    yield return outside;
                }

                continue;
            }

            string expected = NameValue.WritePart(values[i], field.Rules, pattern);
            bool filler = part.Filler is { } f && parts[i] == NameValue.WritePart(f, field.Rules, pattern);
            if (expected.Length > 0 && expected != parts[i])
            {
                yield return Notice.Of(
                    NoticeRules.NameDoesNotFit,
                    field.Key,
                    $"{field.Label} says “{parts[i]}” where {NameValue.Called(part, link.Convention)} is “{expected}”; one of the two is wrong.",
                    repair
                );
            }
            else if (
                expected.Length == 0
                && !filler
                && part.Kind == NamePartKind.Field
                && link.Convention.Find(part.Of) is { ClosedList: true, Words: { } words }
                && !words.HasLettersOf(parts[i])
            )
            {
                yield return Notice.Of(
                    NoticeRules.NameDoesNotFit,
                    field.Key,
                    $"{field.Label}: “{parts[i]}” is not in the word list of {NameValue.Called(part, link.Convention)}.",
                    repair
                );
            }
        }
    }

    private static string Example(NamePart part, Convention convention) =>
        part.Kind switch
        {
            NamePartKind.Date => DateText.Write(new DateOnly(2026, 3, 1), part.Form),
            NamePartKind.Literal => part.Of,
            _ => NameValue.Called(part, convention).Replace("the ", "", StringComparison.Ordinal).ToLowerInvariant(),
        };
}
