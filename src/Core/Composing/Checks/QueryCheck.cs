using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>The state of the page's own query: what copying broke in it, and pairs that look like tags.</summary>
internal static class QueryCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.Destination is not { Query: { Length: > 0 } query } destination)
        {
            yield break;
        }

        var convention = link.Convention;

        if (SecondQuestionMark.Mend(query, convention) is { } mended)
        {
            yield return Notice.Of(
                NoticeRules.SecondQuestionMark,
                null,
                "The query has a second question mark, so what follows it belongs to the value before; write & instead.",
                new Repair(null, (destination with { Query = mended }).Shown, "Write &")
            );
        }

        if (query.Contains("&amp;", StringComparison.OrdinalIgnoreCase))
        {
            yield return Notice.Of(
                NoticeRules.AmpersandEntity,
                null,
                "The query has &amp; where & was meant, so the keys after it are not recognised; it was probably copied from HTML.",
                new Repair(
                    null,
                    (destination with { Query = query.Replace("&amp;", "&", StringComparison.OrdinalIgnoreCase) }).Shown,
                    "Write &"
                )
            );
        }

        Field? before = null;
        foreach (var pair in RawPair.Split(query))
        {
            string key = pair.Key;
            if (before is not null && key.Length > 0 && !pair.Raw.Contains('=', StringComparison.Ordinal) && convention.Find(key) is null)
            {
                yield return Notice.Of(
                    NoticeRules.ValueCutShort,
                    before.Key,
                    $"“{key}” after the & has no value of its own, so {before.Label} was probably cut short; write the & as %26."
                );
            }

            var field = before = convention.Find(key);
            if (field is null && convention.NearestTo(key) is { } near)
            {
                yield return Notice.Of(
                    NoticeRules.KeyMisspelt,
                    near.Key,
                    $"“{key}” looks like a misspelt {near.Key}; remove it from the page's address."
                );
            }
            else if (field is not null && key != field.Key && key.Equals(field.Key, StringComparison.OrdinalIgnoreCase))
            {
                yield return Notice.Of(
                    NoticeRules.KeyMisspelt,
                    field.Key,
                    $"“{key}” differs from {field.Key} in case; analytics systems may treat it as another key."
                );
            }

            if (field is null)
            {
                continue;
            }

            if (
                key == field.Key
                && convention.MeaningOf(field) == FieldMeaning.ByKey
                && !key.StartsWith("utm_", StringComparison.OrdinalIgnoreCase)
            )
            {
                yield return Notice.Of(
                    NoticeRules.KeyCollides,
                    field.Key,
                    $"The page's own address has {key}=, which the field {field.Label} writes too, so one of the two is lost; ask an owner to rename the key."
                );
            }

            string value = pair.Value;
            if (value.Length == 0)
            {
                yield return Notice.Of(NoticeRules.EmptyValue, field.Key, $"The address has {key} without a value.");
            }
            else if (DoubleEncoding.Undo(value) is { } once)
            {
                yield return Notice.Of(
                    NoticeRules.EncodedTwice,
                    field.Key,
                    $"The value of {key} looks percent-encoded twice: “{value}”.",
                    new Repair(field.Key, once, $"Use {once}")
                );
            }
        }
    }
}
