using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Core.Composing;

/// <summary>The written value of one field, and its notices.</summary>
public static class FieldValue
{
    /// <summary>Turns what was given for a field into its written value.</summary>
    /// <param name="field">The field.</param>
    /// <param name="value">The value as given, and where it came from.</param>
    /// <param name="notices">Receives the notices.</param>
    public static ComposedField Write(Field field, GivenValue value, ICollection<Notice> notices)
    {
        var (given, from) = value;
        switch (field.Kind)
        {
            case FieldKind.Fixed when from != ValueOrigin.Address || given.Length > 0:
                return OfFixed(field, given, notices);
            case FieldKind.Date when given.Length > 0:
                return OfDate(field, given, from, notices);
        }

        if (given.Length == 0)
        {
            return ComposedField.Empty(field);
        }

        var normal = ValueNormaliser.Normalise(given, field.Rules);
        string written = normal.Written;
        IReadOnlyList<ValueStep> steps = normal.Steps;
        if (normal.Problem is { } problem)
        {
            notices.Add(Notice.Of(problem, field.Key, $"{field.Label}: {normal.Why}"));
        }

        if (field.Words is { } words && written.Length > 0)
        {
            (written, steps) = Resolve(field, words, given, written, steps, notices);
        }

        if (written == normal.Written)
        {
            SayWhatChanged(field, steps, notices);
        }

        SayIfPersonal(field, written, notices);
        SayIfEncoded(field, written, notices);
        SayAboutPlaceholders(field, written, notices);
        return new ComposedField(field.Key, field.Label, written, from, steps);
    }

    private static ComposedField OfFixed(Field field, string given, ICollection<Notice> notices)
    {
        if (given.Length > 0 && ValueNormaliser.Normalise(given, field.Rules).Written != field.Fixed)
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.FixedDiffers,
                    field.Key,
                    $"{field.Label} always has the value “{field.Fixed}”, which replaced “{given}”.",
                    new Repair(field.Key, field.Fixed, $"Use {field.Fixed}")
                )
            );
        }

        return new ComposedField(field.Key, field.Label, field.Fixed, ValueOrigin.Fixed, []);
    }

    private static ComposedField OfDate(Field field, string given, ValueOrigin from, ICollection<Notice> notices)
    {
        string text = ValueNormaliser.Normalise(given, new ValueRules(Space: SpaceRule.Hyphen)).Written;
        string example = DateText.Write(new DateOnly(2026, 3, 1), field.DateForm);
        if (DateText.Read(text) is not { } date)
        {
            notices.Add(
                Notice.Of(NoticeRules.DateUnreadable, field.Key, $"{field.Label}: “{given}” isn't a date; write it like {example}.")
            );
            return new ComposedField(field.Key, field.Label, text, from, []);
        }

        if (!DateText.Holds(date.Form, field.DateForm))
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.DateUnreadable,
                    field.Key,
                    $"{field.Label}: “{given}” is not a complete date; write it like {example}."
                )
            );
            return new ComposedField(field.Key, field.Label, text, from, []);
        }

        string written = DateText.Write(date.First, field.DateForm);
        return new ComposedField(
            field.Key,
            field.Label,
            written,
            from,
            written == given ? [] : [new ValueStep(ValueStepKind.Date, "date written as " + example, given, written)]
        );
    }

    private static (string Written, IReadOnlyList<ValueStep> Steps) Resolve(
        Field field,
        WordList words,
        string given,
        string written,
        IReadOnlyList<ValueStep> steps,
        ICollection<Notice> notices
    )
    {
        var match = words.Match(given);
        switch (match.Kind)
        {
            case WordMatchKind.Alias:
                notices.Add(
                    Notice.Of(
                        NoticeRules.AliasUsed,
                        field.Key,
                        $"{field.Label}: “{given}” is an alias of “{match.Word!.Written}”, which was used."
                    )
                );
                return (match.Word.Written, [.. steps, new ValueStep(ValueStepKind.Alias, "alias of", written, match.Word.Written)]);
            case WordMatchKind.Retired:
                string? successor = match.Word!.Successor;
                notices.Add(
                    Notice.Of(
                        NoticeRules.WordRetired,
                        field.Key,
                        $"{field.Label}: “{match.Word.Written}” is retired"
                            + (successor is null ? "; choose another word." : $"; use “{successor}”."),
                        successor is null ? null : new Repair(field.Key, successor, $"Use {successor}")
                    )
                );
                return (match.Word.Written, steps);
            case WordMatchKind.Unknown:
                var rule = field.ClosedList ? NoticeRules.WordUnknown : NoticeRules.WordNew;
                string wayOut =
                    match.Word is { } near ? $"; did you mean “{near.Written}”?"
                    : field.ClosedList ? "; choose one of its words."
                    : "; check that it is right.";
                notices.Add(
                    Notice.Of(
                        rule,
                        field.Key,
                        $"{field.Label}: “{written}” is not in its word list{wayOut}",
                        match.Word is null ? null : new Repair(field.Key, match.Word.Written, $"Use {match.Word.Written}")
                    )
                );
                return (written, steps);
            default:
                return (match.Word!.Written, steps);
        }
    }

    private static void SayWhatChanged(Field field, IReadOnlyList<ValueStep> steps, ICollection<Notice> notices)
    {
        foreach (var step in steps)
        {
            var rule = step.Kind switch
            {
                ValueStepKind.LetterCase => NoticeRules.CaseChanged,
                ValueStepKind.OuterSpaces or ValueStepKind.RepeatedSpaces or ValueStepKind.Space or ValueStepKind.Separators =>
                    NoticeRules.SpaceChanged,
                _ => NoticeRules.CharactersChanged,
            };
            if (notices.All(n => n.Rule != rule.Name || n.Field != field.Key))
            {
                notices.Add(Notice.Of(rule, field.Key, $"{field.Label}: {step.Name}, so “{step.Before}” became “{step.After}”."));
            }
        }
    }

    private static void SayIfPersonal(Field field, string written, ICollection<Notice> notices)
    {
        if (!field.HoldsNumbers && PersonalData.Find(written) is { } found)
        {
            notices.Add(Notice.Of(found.Rule, field.Key, $"{field.Label}: {found.Why}"));
        }
    }

    /// <summary>A value may be meant like this; most often it was copied out of an address.</summary>
    private static void SayIfEncoded(Field field, string written, ICollection<Notice> notices)
    {
        if (DoubleEncoding.Undo(written) is { } once)
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.EncodedTwice,
                    field.Key,
                    $"{field.Label}: “{written}” looks percent-encoded already and is encoded once more; type it as people read it.",
                    new Repair(field.Key, once, $"Use {once}")
                )
            );
        }
    }

    private static void SayAboutPlaceholders(Field field, string written, ICollection<Notice> notices)
    {
        if (!Placeholders.MayHold(written))
        {
            return;
        }

        var atoms = Placeholders.Split(written, PlaceholderShapes.All);
        if (atoms.All(a => !a.IsPlaceholder))
        {
            return;
        }

        if (atoms.FirstOrDefault(a => a.Shape == PlaceholderShapes.AtClick && !ClickFillIns.IsKnown(a.Text)) is { Text: { } unknown })
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.PlaceholderForeign,
                    field.Key,
                    $"{field.Label}: “{unknown}” is not known at a click; use {string.Join(", ", ClickFillIns.Names.Select(n => $"@{{click.{n}}}"))}."
                )
            );
        }

        if (
            atoms.FirstOrDefault(a => a.IsPlaceholder && a.Shape != PlaceholderShapes.AtClick && (a.Shape & field.Rules.Live) == 0) is
            { Text: { } foreign }
        )
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.PlaceholderForeign,
                    field.Key,
                    $"{field.Label}: “{foreign}” looks like a placeholder of a shape this workspace doesn't use, so it is encoded like any text."
                )
            );
        }

        if (atoms.Any(a => a.Shape == PlaceholderShapes.Percents && (field.Rules.Live & PlaceholderShapes.Percents) != 0))
        {
            notices.Add(
                Notice.Of(
                    NoticeRules.PlaceholderUnreadable,
                    field.Key,
                    $"{field.Label}: a placeholder between %% and %% can't be read back until the platform has filled it in."
                )
            );
        }
    }
}
