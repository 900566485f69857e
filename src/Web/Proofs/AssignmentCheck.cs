using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Reads assignments of strays as they are sent, and says what is wrong with one.</summary>
internal static class AssignmentCheck
{
    private const int Most = 500;
    private const int MostValues = 6;
    private const int LongestKey = 200;
    private const string Refused = "assignment-refused";

    /// <summary>The assignments; refused where one can't be.</summary>
    public static (IReadOnlyList<StrayAssignment>? Assignments, Refusal? Refusal) Read(
        IReadOnlyList<AssignStray?>? sent,
        Convention convention,
        PlanOfVisits plan
    )
    {
        if (sent is not { Count: > 0 and <= Most })
        {
            return (null, Refusal.Invalid("assignments-missing", $"Send 1 to {Most} strays as “assignments”."));
        }

        var read = new List<StrayAssignment>();
        foreach (var one in sent)
        {
            var (assignment, refusal) = one?.Key is { Length: > 0 } key
                ? OfKey(key, one.Field ?? "", convention)
                : OfValues(one?.When, one?.Then, convention, plan);
            if (assignment is null)
            {
                return (null, refusal);
            }

            read.Add(assignment);
        }

        return (read, null);
    }

    private static (StrayAssignment?, Refusal?) OfKey(string key, string field, Convention convention)
    {
        if (key.Length > LongestKey)
        {
            return No($"A key has 1 to {LongestKey} characters; send it as it arrived.");
        }

        if (convention.Find(key) is { } read && !read.Label.Equals(key, StringComparison.OrdinalIgnoreCase))
        {
            return No($"“{key}” is read as {read.Label} already.");
        }

        return convention.Find(field) is { } meant
            ? (StrayAssignment.OfKey(Guid.NewGuid(), key, meant.Key), null)
            : No($"The convention has no field “{Cut(field)}”; choose one of its fields.");
    }

    private static (StrayAssignment?, Refusal?) OfValues(
        IReadOnlyDictionary<string, string?>? when,
        IReadOnlyDictionary<string, string?>? then,
        Convention convention,
        PlanOfVisits plan
    )
    {
        if (when is not { Count: > 0 and <= MostValues } || then is not { Count: > 0 and <= MostValues })
        {
            return No("A stray is a key with a “field”, or values in “when” with what they mean in “then”.");
        }

        var given = new Dictionary<string, string>(StringComparer.Ordinal);
        var meant = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (name, value) in when)
        {
            // A parameter nobody reads may have swallowed tags after a second question mark.
            string key = convention.Find(name)?.Key ?? name.ToLowerInvariant();
            if (key.Length is 0 or > LongestKey)
            {
                return No($"A key has 1 to {LongestKey} characters; send it as it arrived.");
            }

            if (string.IsNullOrEmpty(value) || value.Length > RawTags.MostBytes)
            {
                return No($"What “{key}” says is missing or too long; send the value as it arrived.");
            }

            given[key] = value;
        }

        foreach (var (name, value) in then)
        {
            if (convention.Find(name) is not { } field)
            {
                return No($"The convention has no field “{Cut(name)}”; choose one of its fields.");
            }

            var (written, why) = WrittenOf(field, value ?? "", convention, plan);
            if (written is null)
            {
                return No(why!);
            }

            meant[field.Key] = written;
        }

        return meant.All(m => given.GetValueOrDefault(m.Key) == m.Value)
            ? No("The stray says that already; choose another meaning.")
            : (StrayAssignment.OfValues(Guid.NewGuid(), given, meant), null);
    }

    private static (string? Written, string? Why) WrittenOf(Field field, string value, Convention convention, PlanOfVisits plan)
    {
        var written = ValueNormaliser.Normalise(value, field.Rules);
        if (written.Written.Length == 0 || written.Problem is not null)
        {
            return (null, $"{field.Label} can't say “{Cut(value)}”{(written.Why is { } why ? $": {why}" : ".")}");
        }

        if (convention.KeyOf(FieldMeaning.Campaign) == field.Key)
        {
            return plan.KnowsCampaign(value) ? (value, null)
                : plan.KnowsCampaign(written.Written) ? (written.Written, null)
                : (null, $"The plan has no campaign “{Cut(value)}”; choose one, or make it first.");
        }

        return field.Words is not { } words ? (written.Written, null)
            : words.Find(value) is { } word ? (word.Written, null)
            : (null, $"{field.Label} has no word “{Cut(value)}”; choose a word, or add it to the convention first.");
    }

    private static (StrayAssignment?, Refusal?) No(string message) => (null, Refusal.Unacceptable(Refused, message));

    private static string Cut(string text) => text.Length > 80 ? text[..80] + "…" : text;
}
