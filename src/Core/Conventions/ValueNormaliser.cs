using System.Buffers;
using System.Globalization;
using System.Text;
using AnyAscii;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>
/// Writes a value as its field says: one pass of ordered steps, repeated until a pass changes nothing, so that
/// normalising a written value never changes it again.
/// </summary>
public static class ValueNormaliser
{
    // A pass can lay bare work for the next one (a transliterated letter brings a space, a removed character joins two
    // separators). Text only gets shorter or plainer, so a handful of passes is always enough.
    private const int MostPasses = 8;

    private static readonly SearchValues<char> SettledLower = SearchValues.Create("abcdefghijklmnopqrstuvwxyz0123456789.~");

    /// <summary>Writes a value.</summary>
    /// <param name="typed">The value as typed.</param>
    /// <param name="rules">How the field writes values.</param>
    public static NormalisedValue Normalise(string typed, ValueRules rules)
    {
        ArgumentNullException.ThrowIfNull(typed);
        if (IsSettled(typed, rules))
        {
            return TooLong(typed, rules) is { } why ? new(typed, [], NoticeRules.ValueTooLong, why) : new(typed, []);
        }

        if (HasHalfCharacter(typed))
        {
            return new(typed, [], NoticeRules.BrokenText, "The value has half of a character inside; type it again.");
        }

        var steps = new List<ValueStep>();
        string value = typed;
        for (int pass = 0; pass < MostPasses; pass++)
        {
            string before = value;
            value = OnePass(value, rules, steps, out var refused);
            if (refused is { } character)
            {
                return new(value, steps, NoticeRules.CharacterRefused, $"“{character}” isn't allowed in this field; remove it.");
            }

            if (value == before || IsSettled(value, rules))
            {
                break;
            }
        }

        return TooLong(value, rules) is { } tooLong ? new(value, steps, NoticeRules.ValueTooLong, tooLong) : new(value, steps);
    }

    private static string OnePass(string value, ValueRules rules, List<ValueStep> steps, out Rune? refused)
    {
        refused = null;
        value = Step(ValueStepKind.Accents, "composed accents", value, Composed);
        value = Step(ValueStepKind.Invisible, "invisible characters removed", value, v => PlainOnly(v, rules, InvisibleText.Remove));
        value = Step(ValueStepKind.OuterSpaces, "outer spaces removed", value, v => v.Trim());
        value = Step(ValueStepKind.RepeatedSpaces, "repeated spaces joined", value, v => PlainOnly(v, rules, OneSpace));
        if (rules.Transliterate)
        {
            value = Step(ValueStepKind.PlainLetters, "changed to plain letters", value, v => PlainOnly(v, rules, t => t.Transliterate()));
        }

        value = Step(ValueStepKind.LetterCase, "letter case", value, v => WithCase(v, rules));
        if (rules.Space != SpaceRule.Stay)
        {
            value = Step(ValueStepKind.Space, rules.Separator == '-' ? "space becomes -" : "space becomes _", value, v =>
                PlainOnly(v, rules, t => t.Replace(' ', rules.Separator))
            );
        }

        if (rules.Characters != CharacterSet.Anything)
        {
            if (rules.Outside == OutsideSet.Refuse)
            {
                refused = FirstOutside(value, rules);
            }

            value = refused is not null
                ? value
                : Step(ValueStepKind.Characters, "characters removed", value, v => WithoutOutside(v, rules));
        }

        value = Step(ValueStepKind.Separators, "separators joined", value, v => OneSeparator(v, rules));
        return Step(ValueStepKind.Accents, "composed accents", value, Composed);

        string Step(ValueStepKind kind, string name, string before, Func<string, string> change)
        {
            string after = change(before);
            if (!string.Equals(after, before, StringComparison.Ordinal))
            {
                steps.Add(new ValueStep(kind, name, before, after));
            }

            return after;
        }
    }

    /// <summary>Letters and their accents as one (Unicode Standard Annex #15, form C); plain letters have none.</summary>
    private static string Composed(string value) => Ascii.IsValid(value) ? value : value.Normalize(NormalizationForm.FormC);

    /// <summary>The commonest case at a glance: plain lower-case letters and digits, single separators inside.</summary>
    private static bool IsSettled(string value, ValueRules rules)
    {
        char previous = '_';
        foreach (char c in value)
        {
            bool separator = c is '_' or '-';
            if (separator ? previous is '_' or '-' : !SettledLower.Contains(c))
            {
                return false;
            }

            previous = c;
        }

        return rules.Case != LetterCase.FirstLetters && previous is not ('_' or '-');
    }

    private static bool HasHalfCharacter(string value)
    {
        for (int i = 0; i < value.Length; i++)
        {
            if (char.IsSurrogate(value[i]))
            {
                if (i + 1 >= value.Length || !char.IsSurrogatePair(value[i], value[i + 1]))
                {
                    return true;
                }

                i++;
            }
        }

        return false;
    }

    private static string PlainOnly(string value, ValueRules rules, Func<string, string> change)
    {
        if (!Placeholders.MayHold(value))
        {
            return change(value);
        }

        var atoms = Placeholders.Split(value, rules.Live);
        return atoms.Count == 1 && !atoms[0].IsPlaceholder
            ? change(value)
            : string.Concat(atoms.Select(a => a.IsPlaceholder ? a.Text : change(a.Text)));
    }

    private static string OneSpace(string value)
    {
        var result = new StringBuilder(value.Length);
        foreach (char c in value)
        {
            bool space = char.IsWhiteSpace(c);
            if (!space)
            {
                result.Append(c);
            }
            else if (result.Length == 0 || result[^1] != ' ')
            {
                result.Append(' ');
            }
        }

        return result.ToString();
    }

    private static string WithCase(string value, ValueRules rules)
    {
        if (rules.Case == LetterCase.AsTyped)
        {
            return value;
        }

        var result = new StringBuilder(value.Length);
        Span<char> units = stackalloc char[2];
        bool begins = true;
        foreach (var atom in Placeholders.Split(value, rules.Live))
        {
            if (atom.IsPlaceholder)
            {
                result.Append(atom.Text);
                begins = false;
                continue;
            }

            foreach (var rune in atom.Text.EnumerateRunes())
            {
                bool upper = begins && rules.Case == LetterCase.FirstLetters;
                int length = (upper ? Rune.ToUpperInvariant(rune) : Rune.ToLowerInvariant(rune)).EncodeToUtf16(units);
                result.Append(units[..length]);
                begins = rune.Value is ' ' or '_' or '-';
            }
        }

        return result.ToString();
    }

    private static Rune? FirstOutside(string value, ValueRules rules)
    {
        foreach (var atom in Placeholders.Split(value, rules.Live))
        {
            if (atom.IsPlaceholder)
            {
                continue;
            }

            foreach (var rune in atom.Text.EnumerateRunes())
            {
                if (!IsAllowed(rune, rules))
                {
                    return rune;
                }
            }
        }

        return null;
    }

    private static string WithoutOutside(string value, ValueRules rules) => PlainOnly(value, rules, text =>
        {
            var kept = new StringBuilder(text.Length);
            Span<char> units = stackalloc char[2];
            foreach (var rune in text.EnumerateRunes())
            {
                if (IsAllowed(rune, rules))
                {
                    kept.Append(units[..rune.EncodeToUtf16(units)]);
                }
            }

            return kept.Length == text.Length ? text : kept.ToString();
        });

    private static bool IsAllowed(Rune rune, ValueRules rules)
    {
        if (rune.Value is '-' or '.' or '_' or '~' || (rune.Value == ' ' && rules.Space == SpaceRule.Stay))
        {
            return true;
        }

        return rules.Characters switch
        {
            CharacterSet.Plain => rune.IsAscii && char.IsAsciiLetterOrDigit((char)rune.Value),
            CharacterSet.LettersAndDigits => Rune.IsLetterOrDigit(rune)
                || Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.SpacingCombiningMark
                || rune.Value is 0x200C or 0x200D,
            _ => true,
        };
    }

    /// <summary>A run of separators becomes one (the field's own, if the run has it); outer ones go.</summary>
    private static string OneSeparator(string value, ValueRules rules)
    {
        var result = new StringBuilder(value.Length);
        char pending = '\0';
        foreach (var atom in Placeholders.Split(value, rules.Live))
        {
            if (atom.IsPlaceholder)
            {
                Flush(atom.Text);
                continue;
            }

            foreach (char c in atom.Text)
            {
                if (c is ' ' or '_' or '-')
                {
                    pending = pending == '\0' || c == rules.Separator ? c : pending;
                }
                else
                {
                    Flush(null);
                    result.Append(c);
                }
            }
        }

        return result.ToString();

        void Flush(string? placeholder)
        {
            if (pending != '\0' && result.Length > 0)
            {
                result.Append(pending);
            }

            pending = '\0';
            result.Append(placeholder);
        }
    }

    private static string? TooLong(string value, ValueRules rules)
    {
        if (value.Length <= rules.LongestValue)
        {
            return null;
        }

        int count = value.EnumerateRunes().Count();
        return count <= rules.LongestValue
            ? null
            : $"The value has {count} characters and the field takes {rules.LongestValue}; shorten it.";
    }
}

/// <summary>A value as a field writes it.</summary>
/// <param name="Written">The written form.</param>
/// <param name="Steps">The steps that changed something, in order.</param>
/// <param name="Problem">The rule that forbids the value, or null.</param>
/// <param name="Why">What is wrong with it and what to do, when there is a problem.</param>
public sealed record NormalisedValue(string Written, IReadOnlyList<ValueStep> Steps, NoticeRule? Problem = null, string? Why = null);

/// <summary>What a step of writing a value did.</summary>
public enum ValueStepKind
{
    /// <summary>Letters and their accents became one character each (NFC).</summary>
    Accents,

    /// <summary>Characters nobody sees went.</summary>
    Invisible,

    /// <summary>White space at the ends went.</summary>
    OuterSpaces,

    /// <summary>White space inside became one space.</summary>
    RepeatedSpaces,

    /// <summary>Letters were written in plain Latin ones.</summary>
    PlainLetters,

    /// <summary>Capitals became small, or the other way about.</summary>
    LetterCase,

    /// <summary>A space became the field's separator.</summary>
    Space,

    /// <summary>Characters outside the field's set went.</summary>
    Characters,

    /// <summary>Separators side by side became one.</summary>
    Separators,

    /// <summary>A date was written in the field's form.</summary>
    Date,

    /// <summary>Another name of a word became the word.</summary>
    Alias,

    /// <summary>The value was put together from parts.</summary>
    Composed,
}

/// <summary>One step of writing a value that changed something.</summary>
/// <param name="Kind">What was done.</param>
/// <param name="Name">The same in a few words.</param>
/// <param name="Before">The value before it.</param>
/// <param name="After">The value after it.</param>
public sealed record ValueStep(ValueStepKind Kind, string Name, string Before, string After);
