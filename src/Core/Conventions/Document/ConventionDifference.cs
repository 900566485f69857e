using System.Globalization;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>Tells two conventions apart, thing by thing, in words people use.</summary>
public static class ConventionDifference
{
    /// <summary>What has to happen to the one to make it the other, in the order of the file; empty when they say the same.</summary>
    public static IReadOnlyList<DocumentChange> Between(ConventionDocument before, ConventionDocument after)
    {
        var changes = new List<DocumentChange>();
        Compare(
            changes,
            "The convention",
            [before],
            [after],
            _ => "",
            d => [("links are tagged in", d.Style.ToString().ToLowerInvariant()), ("sealed links' parameter", d.SealedKey ?? "")]
        );
        Compare(changes, "Field", before.Fields, after.Fields, f => f.Key, PropertiesOf);
        SayIfMoved(changes, "Order of the fields", before.Fields, after.Fields, f => f.Key);
        foreach (var field in after.Fields)
        {
            if (before.Fields.FirstOrDefault(f => f.Key == field.Key) is { } old)
            {
                Compare(changes, $"{field.Label}: word", old.Words, field.Words, w => w.Written, PropertiesOf);
                SayIfMoved(changes, $"Order of the words of {field.Label}", old.Words, field.Words, w => w.Written);
            }
        }

        Compare(
            changes,
            "What goes with",
            before.Choices,
            after.Choices,
            c => $"{c.Word} ({c.Field}) in {c.Narrows}",
            c => [("words", string.Join(", ", c.To))]
        );
        Compare(
            changes,
            "Channel",
            before.Channels,
            after.Channels,
            c => c.Name,
            c => [("group", c.Group), ("conditions", c.ToChannel().InWords())]
        );
        SayIfMoved(changes, "Order of the channels", before.Channels, after.Channels, c => c.Name);
        Compare(changes, "Site", before.Referrers, after.Referrers, r => r.Host, r => [("kind", r.Kind.ToString())]);
        Compare(
            changes,
            "Severity of",
            [.. before.Severities],
            [.. after.Severities],
            s => s.Key,
            s => [("severity", s.Value.ToString().ToLowerInvariant())]
        );
        Compare(changes, "Reading system", before.ReadBy, after.ReadBy, r => r.Name, r => [("keys", string.Join(", ", r.Keys))]);
        return changes;
    }

    private static void Compare<T>(
        List<DocumentChange> changes,
        string what,
        IReadOnlyList<T> before,
        IReadOnlyList<T> after,
        Func<T, string> name,
        Func<T, (string Name, string Text)[]> properties
    )
    {
        var olds = before.GroupBy(name).ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
        var news = after.Select(name).ToHashSet(StringComparer.Ordinal);
        foreach (var gone in before.Where(b => !news.Contains(name(b))))
        {
            changes.Add(new DocumentChange(ChangeKind.Removed, $"{what} {name(gone)}".Trim(), "", Summary(properties(gone)), ""));
        }

        foreach (var item in after)
        {
            string called = $"{what} {name(item)}".Trim();
            var now = properties(item);
            if (!olds.TryGetValue(name(item), out var old))
            {
                changes.Add(new DocumentChange(ChangeKind.Added, called, "", "", Summary(now)));
                continue;
            }

            var then = properties(old);
            for (int i = 0; i < now.Length; i++)
            {
                if (then[i].Text != now[i].Text)
                {
                    changes.Add(new DocumentChange(ChangeKind.Changed, called, now[i].Name, then[i].Text, now[i].Text));
                }
            }
        }
    }

    private static void SayIfMoved<T>(
        List<DocumentChange> changes,
        string what,
        IReadOnlyList<T> before,
        IReadOnlyList<T> after,
        Func<T, string> name
    )
    {
        var both = before.Select(name).Intersect(after.Select(name), StringComparer.Ordinal).ToHashSet(StringComparer.Ordinal);
        var then = before.Select(name).Where(both.Contains).ToList();
        var now = after.Select(name).Where(both.Contains).ToList();
        if (!then.SequenceEqual(now))
        {
            int first = Enumerable.Range(0, then.Count).First(i => then[i] != now[i]);
            changes.Add(
                new DocumentChange(
                    ChangeKind.Moved,
                    what,
                    "from place " + (first + 1).ToString(CultureInfo.InvariantCulture),
                    then[first],
                    now[first]
                )
            );
        }
    }

    private static string Summary((string Name, string Text)[] properties) =>
        string.Join(" · ", properties.Select(p => p.Text).Where(t => t.Length > 0).Take(3));

    private static (string Name, string Text)[] PropertiesOf(FieldDocument f) =>
        [
            ("label", f.Label),
            (
                "kind",
                f.Kind switch
                {
                    FieldKind.Text when f.List == ListKind.None => "free text",
                    FieldKind.Text => f.List == ListKind.Closed ? "closed word list" : "open word list",
                    FieldKind.Date => "date as " + DateText.Write(new DateOnly(2026, 3, 1), f.DateForm),
                    FieldKind.Fixed => $"always “{f.Fixed}”",
                    _ => f.Pattern is null
                        ? "composed"
                        : "composed of " + string.Join($" {f.Pattern.Separator} ", f.Pattern.Parts.Select(Says)),
                }
            ),
            ("presence", f.Presence.ToString().ToLowerInvariant()),
            (
                "presence by channel",
                string.Join(
                    ", ",
                    f.PresenceIn.OrderBy(p => p.Key, StringComparer.Ordinal)
                        .Select(p => $"{p.Key}: {p.Value.ToString().ToLowerInvariant()}")
                )
            ),
            ("means", f.Means == FieldMeaning.ByKey ? "" : f.Means.ToString().ToLowerInvariant()),
            ("case", f.Case.ToString()),
            ("space", f.Space.ToString()),
            ("characters", f.Characters.ToString()),
            ("other characters", f.Outside.ToString()),
            ("plain letters", f.Transliterate ? "yes" : "no"),
            ("longest value", f.LongestValue.ToString(CultureInfo.InvariantCulture)),
            ("holds numbers", f.HoldsNumbers ? "yes" : "no"),
            ("also read from", string.Join(", ", f.AlsoRead)),
            ("hint", f.Hint ?? ""),
            ("example", f.Example ?? ""),
        ];

    private static (string Name, string Text)[] PropertiesOf(WordDocument w) =>
        [
            ("label", w.Label),
            ("other names", string.Join(", ", w.Aliases)),
            (
                "retired",
                w.Retired
                    ? w.Successor is null
                        ? "retired"
                        : $"retired for {w.Successor}"
                    : ""
            ),
        ];

    private static string Says(NamePart part)
    {
        string says = part.Kind switch
        {
            NamePartKind.Date => DateText.Write(new DateOnly(2026, 3, 1), part.Form),
            NamePartKind.Campaign => "campaign",
            NamePartKind.Channel => "channel",
            NamePartKind.Literal => $"“{part.Of}”",
            _ => part.Of,
        };
        return part.Filler is null ? says : $"{says} (or {part.Filler})";
    }
}

/// <summary>One difference between two conventions.</summary>
/// <param name="Kind">Whether the thing is new, gone or changed.</param>
/// <param name="What">The thing in words, such as “Source: fernpost”.</param>
/// <param name="Property">What of it changed; empty for a thing that is new or gone.</param>
/// <param name="Before">How it was; empty where it wasn't.</param>
/// <param name="After">How it is; empty where it isn't any more.</param>
public sealed record DocumentChange(ChangeKind Kind, string What, string Property, string Before, string After);

/// <summary>How a thing differs between two conventions.</summary>
public enum ChangeKind
{
    Added,
    Removed,
    Changed,
    Moved,
}
