using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>Finds what in a document can't be a convention.</summary>
internal static class ConventionCheck
{
    /// <exception cref="ConventionException">Something can't be; the message says what and where, and what to do.</exception>
    public static void ThrowIfWrong(ConventionDocument document)
    {
        if (document.Fields.Count == 0)
        {
            throw new ConventionException("A convention needs at least one field.");
        }

        if (document.Fields.GroupBy(f => f.Key, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new ConventionException($"Two fields have the key “{twice.Key}”; give one of them another.");
        }

        foreach (var field in document.Fields)
        {
            CheckField(field, document);
        }

        CheckSealing(document);
        CheckChoices(document);
        CheckChannels(document);
        CheckSeverities(document);
    }

    private static void CheckField(FieldDocument field, ConventionDocument document)
    {
        if (string.IsNullOrWhiteSpace(field.Label))
        {
            throw new ConventionException($"The field “{field.Key}” needs a label.");
        }

        if (field.Words.GroupBy(w => w.Written, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new ConventionException($"{field.Label}: the word “{twice.Key}” is in the list twice.");
        }

        if (field.LongestValue is < 1 or > 1_000)
        {
            throw new ConventionException($"{field.Label}: the longest value has 1 to 1,000 characters.");
        }

        if (field.PresenceIn.Keys.FirstOrDefault(c => document.Channels.All(known => known.Name != c)) is { } channel)
        {
            throw new ConventionException($"{field.Label}: there is no channel “{channel}”; choose one of the channels.");
        }

        switch (field.Kind)
        {
            case FieldKind.Fixed
                when ValueNormaliser.Normalise(field.Fixed ?? "", field.ToRules()) is var normal
                    && (normal.Written.Length == 0 || normal.Written != field.Fixed):
                throw new ConventionException(
                    normal.Written.Length == 0
                        ? $"{field.Label}: a fixed field needs a value."
                        : $"{field.Label}: “{field.Fixed}” would become “{normal.Written}” by the field's own rules; enter it like that."
                );
            case FieldKind.Composed:
                CheckPattern(field, document);
                break;
        }
    }

    private static void CheckPattern(FieldDocument field, ConventionDocument document)
    {
        if (field.Pattern is not { Parts.Count: > 0 } written)
        {
            throw new ConventionException($"{field.Label}: a composed field needs at least one part.");
        }

        if (written.Separator is not ("_" or "-"))
        {
            throw new ConventionException($"{field.Label}: parts are joined by _ or -.");
        }

        var pattern = written.ToPattern();
        foreach (var part in written.Parts)
        {
            if (
                part.Kind == NamePartKind.Field
                && document.Fields.FirstOrDefault(f => f.Key == part.Of) is not { Kind: not FieldKind.Composed }
            )
            {
                throw new ConventionException($"{field.Label}: “{part.Of}” can't be a part; choose a field that is not composed itself.");
            }

            var form =
                part.Kind == NamePartKind.Date ? part.Form
                : part.Kind == NamePartKind.Field && document.Fields.First(f => f.Key == part.Of) is { Kind: FieldKind.Date } date
                    ? date.DateForm
                : DateForm.PlainDay;
            if (DateText.Write(new DateOnly(2026, 3, 1), form).Contains(pattern.Separator, StringComparison.Ordinal))
            {
                throw new ConventionException(
                    $"{field.Label}: dates written with {pattern.Separator} can't be told from the parts around them; choose another form or separator."
                );
            }

            if (part.Kind == NamePartKind.Literal && NameValue.WritePart(part.Of, field.ToRules(), pattern).Length == 0)
            {
                throw new ConventionException($"{field.Label}: a fixed part needs a text of letters or digits.");
            }

            if (part.Filler is { } filler && NameValue.WritePart(filler, field.ToRules(), pattern).Length == 0)
            {
                throw new ConventionException($"{field.Label}: an optional part needs a placeholder word.");
            }
        }
    }

    private static void CheckSealing(ConventionDocument document)
    {
        if (
            document.SealedKey is { } key
            && (!Tag.IsKey(key) || document.Fields.Any(f => f.Key.Equals(key, StringComparison.OrdinalIgnoreCase)))
        )
        {
            throw new ConventionException(
                $"“{key}” can't be the parameter of sealed links; choose one that no field has, of letters, digits and - . _ ~."
            );
        }

        if (document.Style == TagStyle.Sealed && document.SealedKey is null)
        {
            throw new ConventionException("Sealed links need a parameter for their code.");
        }
    }

    private static void CheckChoices(ConventionDocument document)
    {
        foreach (var choice in document.Choices)
        {
            string says = $"“{choice.Word}” of {choice.Field}, which narrows {choice.Narrows}";
            if (
                choice.Field == choice.Narrows
                || document.Fields.All(f => f.Key != choice.Field)
                || document.Fields.All(f => f.Key != choice.Narrows)
            )
            {
                throw new ConventionException($"{says}: both must be fields, and two different ones.");
            }

            if (choice.To.Count == 0)
            {
                throw new ConventionException($"{says}: at least one word must go with it.");
            }
        }

        if (document.Choices.GroupBy(c => (c.Field, c.Word, c.Narrows)).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new ConventionException(
                $"What goes with “{twice.Key.Word}” of {twice.Key.Field} is listed twice for {twice.Key.Narrows}."
            );
        }
    }

    private static void CheckChannels(ConventionDocument document)
    {
        if (document.Channels.GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } channel)
        {
            throw new ConventionException($"Two channels are called “{channel.Key}”; give one of them another name.");
        }

        if (document.Channels.FirstOrDefault(c => c.Conditions.Any(k => k.Test != ChannelTest.Empty && k.Values.Count == 0)) is { } open)
        {
            throw new ConventionException($"The channel “{open.Name}” has a condition without a value.");
        }

        if (document.Referrers.GroupBy(r => r.Host, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } host)
        {
            throw new ConventionException($"The site “{host.Key}” is listed twice.");
        }
    }

    private static void CheckSeverities(ConventionDocument document)
    {
        foreach (string name in document.Severities.Keys)
        {
            if (NoticeRules.All.FirstOrDefault(r => r.Name == name) is not { } rule)
            {
                throw new ConventionException($"There is no rule “{name}”; docs/rules.md lists them.");
            }

            if (rule.Protects)
            {
                throw new ConventionException($"“{name}” keeps links working; its severity can't be changed.");
            }
        }
    }
}
