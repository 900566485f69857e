using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Web.Conventions;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Makes values from the traffic words, or aliases of a word, in the draft of the convention.</summary>
public sealed class StrayDraft(ConventionStore conventions)
{
    private const int Most = 500;

    /// <summary>Adds values to the list of a field; the draft is begun where there is none.</summary>
    /// <param name="key">Key of the field.</param>
    /// <param name="values">The values as they arrived.</param>
    /// <param name="word">The word they become aliases of, in its written form; null makes each a word of its own.</param>
    /// <param name="who">Who asks.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<Refusal?> AddAsync(string key, IReadOnlyList<string?> values, string? word, string who, CancellationToken cancel)
    {
        if (values.Count is 0 or > Most || values.Any(string.IsNullOrWhiteSpace))
        {
            return Refusal.Invalid("values-missing", $"Send 1 to {Most} values as they arrived.");
        }

        var draft = await conventions.FindAsync("draft", cancel);
        var version = draft ?? await conventions.FindAsync(null, cancel);
        var document = ConventionRows.DocumentOf(version!);
        if (document.Fields.FirstOrDefault(f => f.Key.Equals(key, StringComparison.OrdinalIgnoreCase)) is not { } field)
        {
            return Refusal.Unacceptable("field-missing", "The draft of the convention has no such field; look at the draft first.");
        }

        if (field.List == ListKind.None)
        {
            return Refusal.Unacceptable("list-missing", $"{field.Label} has no list of words; give it one in Conventions first.");
        }

        var changed = word is null ? WithWords(field, values) : WithAliases(field, values, word);
        if (changed is null)
        {
            return Refusal.Unacceptable("word-missing", $"In the draft, {field.Label} has no word “{word}”; add it there first.");
        }

        var saved = await conventions.SaveDraftAsync(
            document with
            {
                Fields = [.. document.Fields.Select(f => f.Key == field.Key ? changed : f)],
            },
            draft?.Revision,
            who,
            cancel
        );
        return saved.IsRefused ? saved.Refusal : null;
    }

    private static FieldDocument WithWords(FieldDocument field, IReadOnlyList<string?> values)
    {
        var words = field.Words.ToList();
        foreach (string value in values.OfType<string>())
        {
            string written = ValueNormaliser.Normalise(value, field.ToRules()).Written;
            if (written.Length > 0 && !words.Exists(w => w.Written == written))
            {
                words.Add(new WordDocument { Written = written, Label = value.Trim() });
            }
        }

        return field with
        {
            Words = words,
        };
    }

    private static FieldDocument? WithAliases(FieldDocument field, IReadOnlyList<string?> values, string word)
    {
        if (!field.Words.Any(w => w.Written == word))
        {
            return null;
        }

        return field with
        {
            Words =
            [
                .. field.Words.Select(w =>
                    w.Written == word
                        ? w with
                        {
                            Aliases = [.. w.Aliases, .. values.OfType<string>().Where(v => !w.Aliases.Contains(v, StringComparer.Ordinal))],
                        }
                        : w
                ),
            ],
        };
    }
}
