using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Plan;

/// <summary>Proposes what the campaign field says for a new campaign, in the way the workspace's campaigns are written so far.</summary>
public static class CampaignValue
{
    /// <summary>The proposal.</summary>
    /// <param name="name">The campaign's name.</param>
    /// <param name="starts">Its first day, or null.</param>
    /// <param name="rules">How the campaign field writes values.</param>
    /// <param name="others">Values and first days of the workspace's campaigns.</param>
    /// <returns>The written value; with the date in front where most of the others have it there in one form.</returns>
    public static string Propose(string name, DateOnly? starts, ValueRules rules, IEnumerable<(string Value, DateOnly Starts)> others)
    {
        string plain = ValueNormaliser.Normalise(name, rules).Written;
        if (starts is not { } first || plain.Length == 0)
        {
            return plain;
        }

        var known = others.ToList();
        var habit = known
            .Select(o => LeadOf(o.Value, o.Starts))
            .OfType<(DateForm, char)>()
            .CountBy(l => l)
            .OrderByDescending(c => c.Value)
            .FirstOrDefault();
        if (habit.Value == 0 || habit.Value * 2 < known.Count)
        {
            return plain;
        }

        string lead = DateText.Write(first, habit.Key.Item1) + habit.Key.Item2;
        return plain.StartsWith(lead, StringComparison.Ordinal) ? plain : ValueNormaliser.Normalise(lead + plain, rules).Written;
    }

    private static (DateForm Form, char Separator)? LeadOf(string value, DateOnly starts)
    {
        foreach (var form in Enum.GetValues<DateForm>())
        {
            string written = DateText.Write(starts, form);
            if (
                value.Length > written.Length + 1
                && value.StartsWith(written, StringComparison.OrdinalIgnoreCase)
                && !char.IsLetterOrDigit(value[written.Length])
            )
            {
                return (form, value[written.Length]);
            }
        }

        return null;
    }
}
